import type { DrawnLines } from '../../arrange/drawnLines';
import type { Placements } from '../../arrange/result';

/** What one copy of a bundle holds: for each of its arrangements what that has placed. */
export interface Contents {
  members: {
    id: string;
    placements: Placements;
    /** Lines that it hangs bare. */
    lines?: DrawnLines | undefined;
    contents: (slot: number, prop: string) => Contents;
  }[];
}
