/** The arrays that all placements have, and how many numbers a row each holds. */
export const COLUMNS = [
  ['slot', 1],
  ['state', 1],
  ['prop', 1],
  ['position', 3],
  ['rotation', 4],
  ['scale', 3],
  ['s', 1],
] as const;
