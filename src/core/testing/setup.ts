import fc from 'fast-check';
import { cases, SEED } from './prove';

// Alike in every run; a proof goes through a hundred times as many.
fc.configureGlobal({ seed: SEED, numRuns: cases(10_000) });

// Every expectation takes down where it stands, a hundred calls deep unless told.
Error.stackTraceLimit = 10;
