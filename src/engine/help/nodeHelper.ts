import { parentPort } from 'node:worker_threads';
import { Helping } from './helping';
import type { Asked } from './message';

/** A helper in a thread of Node. */
const helping = new Helping();
parentPort?.on('message', (asked: Asked) => helping.help(asked));
