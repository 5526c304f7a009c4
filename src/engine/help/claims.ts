/** Rows are taken by so many at a time: what the last one does alone takes a millisecond or two. */
const ROWS = 8;

const NEXT = 0;
const DONE = 1;
const FIRST = 2;

/**
 * Who does which rows of a piece of work that several threads share. Whoever is free takes the next few, so that one
 * that comes late, or never, keeps nobody waiting for what it has not begun.
 */
export class Claims {
  private state: Int32Array;
  private all: number;

  /** @param memory made by {@link claimsFor} the same number of rows; the same in all threads */
  constructor(
    memory: SharedArrayBuffer,
    private rows: number,
  ) {
    this.state = new Int32Array(memory);
    this.all = Math.ceil(rows / ROWS);
  }

  /** Does what nobody has begun yet. */
  work(does: (row: number) => void): void {
    for (;;) {
      const claim = Atomics.add(this.state, NEXT, 1);
      if (claim >= this.all) return;
      this.doAll(claim, does);
      this.done(claim);
    }
  }

  /** Waits for what others have begun. What is not done after `patience` milliseconds is done here as well. */
  finish(does: (row: number) => void, patience: number): void {
    for (;;) {
      const done = Atomics.load(this.state, DONE);
      if (done >= this.all) return;
      if (Atomics.wait(this.state, DONE, done, patience) === 'timed-out') break;
    }
    for (let claim = 0; claim < this.all; claim++)
      if (Atomics.load(this.state, FIRST + claim) === 0) this.doAll(claim, does);
  }

  private doAll(claim: number, does: (row: number) => void): void {
    const end = Math.min(this.rows, (claim + 1) * ROWS);
    for (let row = claim * ROWS; row < end; row++) does(row);
  }

  private done(claim: number): void {
    Atomics.store(this.state, FIRST + claim, 1);
    Atomics.add(this.state, DONE, 1);
    Atomics.notify(this.state, DONE);
  }
}

/** What several threads see of who does which of so many rows: nothing is begun yet. */
export const claimsFor = (rows: number): SharedArrayBuffer =>
  new SharedArrayBuffer((FIRST + Math.ceil(rows / ROWS)) * Int32Array.BYTES_PER_ELEMENT);
