/** Whether this run goes through the long proofs whole (`npm run prove`). */
export const PROVING = process.env.PROVE === '1';

/** How many random cases of a proof to go through: all of them when proving, one in a hundred otherwise. */
export const cases = (all: number): number => (PROVING ? all : Math.ceil(all / 100));

/** What the random cases are drawn from; another seed goes through others. */
export const SEED = Number(process.env.SEED ?? 20261125);
