import { Helping } from './helping';
import type { Asked } from './message';

/** A helper in a web worker. */
const helping = new Helping();
self.onmessage = ({ data }: MessageEvent<Asked>) => helping.help(data);
