import type { Placements } from '../../arrange/result';

/** What one copy of a bundle holds: for each of its arrangements what that has placed. */
export interface Contents {
  members: { id: string; placements: Placements; contents: (slot: number, prop: string) => Contents }[];
}
