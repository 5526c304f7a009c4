import { create } from 'zustand';
import { setTime, useClock } from '@/store/clock';
import { useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { focalOf } from '@/view/framing';
import { currentView } from '@/view/handle';
import { makeStill, StillStopped, zipped } from '@/view/still/still';
import { useView } from '@/view/viewState';
import { OrthographicCamera, PerspectiveCamera } from 'three';
import { download, fileName } from '../dialogs/download';
import { jobsOf, VIEW_NOW, type Framed, type Job, type StillChoices } from './jobs';
import { viewNow } from '../viewpoints/looking';

/** Still pictures as they are asked for: which views, how large, how many of a row; and the one that is being made. */

interface Stills extends StillChoices {
  /** What is being made, 0–1; null: nothing. */
  share: number | null;
  said: string | null;
}

export const useStills = create<Stills>(() => ({
  views: [VIEW_NOW],
  size: 1920,
  frames: 64,
  background: 'scene',
  color: '#fbf8f1',
  format: 'png8',
  beside: false,
  row: 'one',
  count: 24,
  from: 0,
  to: 4,
  rate: 12,
  share: null,
  said: null,
}));

let stop: AbortController | null = null;
export const cancelStill = (): void => stop?.abort();

/** The view as it is, as a viewpoint: its frame is the view's own. */
export function lookNow(): Framed {
  const view = currentView();
  const camera = view?.camera;
  const aspect = view ? view.size.width / Math.max(1, view.size.height) : 1.5;
  const name = useDocument.getState().scene.name;
  const seen: Framed = { ...viewNow(), focal: 35, focus: null, aspect, name };
  if (camera instanceof PerspectiveCamera) return { ...seen, focal: focalOf(camera.fov) };
  if (!(camera instanceof OrthographicCamera)) return seen;
  const straight = { high: (camera.top - camera.bottom) / camera.zoom, up: camera.up.toArray() };
  return { ...seen, straight };
}

/** Waits until the scene at its moment has come to the view. */
async function settled(): Promise<void> {
  const isBusy = () => {
    const { busy, asked } = engine().state;
    return busy || asked > 0 || useView.getState().loading > 0 || currentView()?.pending();
  };
  for (let quiet = 0; quiet < 3;) {
    await new Promise((done) => setTimeout(done, 16));
    quiet = isBusy() ? 0 : quiet + 1;
  }
}

/** Makes pictures. @returns one file: a picture, or a zip of several. @throws StillStopped where it was cancelled */
async function makeStills(
  jobs: readonly Job[],
  progress: (share: number) => void,
  signal: AbortSignal,
): Promise<{ name: string; bytes: Uint8Array }> {
  const files: Record<string, Uint8Array> = {};
  const { time } = useClock.getState();
  useView.setState({ makingStill: true });
  try {
    for (const [i, job] of jobs.entries()) {
      if (job.time !== null) setTime(job.time);
      await settled();
      const done = (share: number) => progress((i + share) / jobs.length);
      Object.assign(files, await makeStill(job.spec, { progress: done, signal }));
    }
  } finally {
    useView.setState({ makingStill: false });
    if (useClock.getState().time !== time) setTime(time);
    // The view is as it was, and goes on developing by itself.
  }
  const names = Object.keys(files);
  if (names.length === 1) return { name: names[0], bytes: files[names[0]] };
  return { name: fileName(useDocument.getState().scene.name, 'zip'), bytes: await zipped(files) };
}

/** Makes what is asked for, and hands it to the browser as a download. */
export async function sendStills(): Promise<void> {
  const choices = useStills.getState();
  if (choices.share !== null) return;
  const jobs = jobsOf(choices, useDocument.getState().scene.viewpoints, lookNow());
  if (jobs.length === 0) return;
  stop = new AbortController();
  useStills.setState({ share: 0, said: null });
  try {
    const { name, bytes } = await makeStills(jobs, (share) => useStills.setState({ share }), stop.signal);
    download(bytes, name);
    useStills.setState({ said: `Sent out ${name}.` });
  } catch (error) {
    const said =
      error instanceof StillStopped
        ? error.message
        : `The picture could not be made (${(error as Error).message}). Try a smaller size, or fewer frames.`;
    useStills.setState({ said });
  } finally {
    useStills.setState({ share: null });
  }
}

/** For the shell: one picture of a viewpoint by its name, or of the view as it is. @throws with what names there are */
export async function stillNamed(view: string | null, choices: Partial<StillChoices>): Promise<Uint8Array> {
  const { viewpoints } = useDocument.getState().scene;
  const found = view === null ? null : viewpoints.find((v) => v.name === view);
  if (found === undefined) {
    const names = viewpoints.map((v) => `“${v.name}”`).join(', ');
    throw new Error(
      `The scene has no viewpoint “${view}”. ${names ? `It has ${names}.` : 'It has none yet.'}`,
    );
  }
  const jobs = jobsOf(
    { ...useStills.getState(), ...choices, views: [found?.id ?? VIEW_NOW] },
    viewpoints,
    lookNow(),
  );
  return (await makeStills(jobs, () => {}, new AbortController().signal)).bytes;
}
