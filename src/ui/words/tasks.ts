/** What a newcomer does first, each with what there is to do and what there is to see. `docs/tasks.md` says the same. */
export interface Task {
  title: string;
  /** One action each; keys and names of buttons as they stand on the screen. */
  todo: string[];
  see: string;
}

export const TASKS: Task[] = [
  {
    title: 'Hang a prop along a path',
    todo: [
      'Press + beside Basket, and click Bollard in the library.',
      'Press Escape, then 2, and click some places in the scene.',
      'Press Enter.',
      'Drag the bollard from the basket onto the path.',
    ],
    see: 'Bollards stand along the path, spaced by their own length, upright, facing along it.',
  },
  {
    title: 'Put so many of them',
    todo: ['Open Spacing in the recipe.', 'Choose Count.', 'Type 12 and press Enter.'],
    see: '12 placed, from end to end of the path.',
  },
  {
    title: 'Divide a path into equal parts',
    todo: ['Open Spacing.', 'Choose Divide.', 'Type 5 as the number of parts.'],
    see: 'One prop at each fifth; while a path is drawn, a typed 5 marks the same places to snap to.',
  },
  {
    title: 'Land on the ground',
    todo: [
      'Make hills from + beside Paths & surfaces.',
      'Take the run in hand, and open Ground.',
      'Choose Land.',
    ],
    see: 'Every foot is on the hills; what finds no ground is counted under Checks.',
  },
  {
    title: 'Peg props where you click',
    todo: ['Press 3.', 'Choose a prop.', 'Click on a surface; the wheel turns it, Shift lifts it.'],
    see: 'The prop stands square to the surface, and goes with it when that moves.',
  },
  {
    title: 'Tile a surface',
    todo: [
      'Take a surface in hand.',
      'Press + on a prop of the basket.',
      'Open Layout in the recipe.',
      'Drag the label Columns.',
    ],
    see: 'Tiles lie over the surface in rows; the flat view is their layout.',
  },
  {
    title: 'Span rails between posts',
    todo: ['Open the menu of a run of posts.', 'Choose Add spans.', 'Choose Repeat under Members.'],
    see: 'A rail from each post to the next, exactly from top to top.',
  },
  {
    title: 'Stock a rack',
    todo: [
      'Press + beside Paths & surfaces, and choose the rack with boards.',
      'Press “Stock its boards” in its panel.',
      'Press + beside Basket, and click Tin, Jar and Coil of line in the library.',
      'Press Escape, then + on each of them.',
      'Open Taken in the recipe, and type 0–60 % from the front.',
    ],
    see: 'Every board is full of facings, as deep and high as they fit, some of each taken; the flat view is the shelf from the front.',
  },
  {
    title: 'Let cloth blow',
    todo: ['Make a plane from + beside Paths & surfaces.', 'Add Cloth under Deformers.', 'Press Space.'],
    see: 'The cloth hangs from its held side and moves in the wind; what stands on it goes with it.',
  },
  {
    title: 'Throw a wet rope over a box',
    todo: [
      'Draw a path a metre above where it is to lie, and make a tube along it from + beside Paths & surfaces.',
      'Make a rounded box and a plane under it.',
      'Add Sag under the tube’s Deformers.',
    ],
    see: 'The tube lies over the box and on the plane, flattened where it lies.',
  },
  {
    title: 'Send the scene out',
    todo: ['Press Mod+E.', 'Choose glTF.', 'Press Enter.'],
    see: 'A .glb is downloaded, with an instance a prop.',
  },
  {
    title: 'Without a pointer',
    todo: [
      'Go to the scene with Tab, and press 2.',
      'Move with the arrow keys, and press Enter at each place; once more at the last one.',
      'Press Mod+K, type “library”, press Enter, and add a prop with Tab and Enter; then Escape.',
      'Go to the prop in the basket with Tab, press Enter, then Mod+K, type “hang”, and press Enter.',
    ],
    see: 'The run stands along the path; Tab leads through its recipe, arrow keys change its numbers.',
  },
];

/** The same as a page of Markdown. */
export const tasksPage = (): string =>
  [
    '# What to do first',
    'The key ? opens this page in the application. Mod is Ctrl, or ⌘ on a Mac.',
    ...TASKS.map(
      ({ title, todo, see }, i) =>
        `## ${i + 1}. ${title}\n\n${todo.map((t, k) => `${k + 1}. ${t}`).join('\n')}\n\nTo see: ${see}`,
    ),
  ].join('\n\n') + '\n';
