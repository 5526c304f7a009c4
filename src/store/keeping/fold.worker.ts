import { foldLog } from './log';

/** Folds the log of the scene that it is told, and says when it is done. */
self.onmessage = async ({ data }: MessageEvent<string>) => {
  await foldLog(data).catch(() => undefined);
  self.postMessage('done');
};
