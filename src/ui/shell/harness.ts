import { setTime } from '@/store/clock';
import { engine } from '@/store/engine';
import { toScreen } from '@/view/project';
import { currentView } from '@/view/handle';
import { useView } from '@/view/viewState';
import { libraryProp } from '../basket/libraryProp';
import { stillNamed } from '../still/making';
import { drawPicture } from '../basket/usePicture';
import { forgetAll } from './forget';

/**
 * What tests and benches ask of a running page. Only a page that was started with `window.clothesline` has it.
 * @param leave goes to the start page
 */
export function offerHarness(leave: () => void): void {
  const harness = window.clothesline;
  if (!harness) return;
  harness.settled = settled;
  harness.forget = () => forgetAll(leave);
  harness.isDeveloped = () => useView.getState().developed;
  harness.added = () => useView.getState().added;
  harness.developed = () =>
    new Promise((done) => {
      if (useView.getState().developed) return done();
      const stop = useView.subscribe(({ developed }) => {
        if (!developed) return;
        stop();
        done();
      });
    });
  harness.table = async () => {
    const bytes = await engine().sendOut({ kind: 'csv', gaps: true });
    return new TextDecoder().decode(bytes);
  };
  harness.onScreen = (place) => {
    const view = currentView()!;
    const { x, y } = toScreen(view, place);
    const { left, top } = view.gl.domElement.getBoundingClientRect();
    return { x: x + left, y: y + top };
  };
  harness.still = async (view, seconds, choices) => {
    try {
      setTime(seconds);
      await settled();
      return { ok: true, text: await asBase64(await stillNamed(view, choices)) };
    } catch (error) {
      return { ok: false, text: (error as Error).message };
    }
  };
  harness.pictureOf = async (name) => (await drawPicture(libraryProp(name)!))!;
}

const asBase64 = (bytes: Uint8Array): Promise<string> =>
  new Promise((done) => {
    const reader = new FileReader();
    reader.onload = () => done((reader.result as string).split(',')[1]);
    reader.readAsDataURL(new Blob([new Uint8Array(bytes)]));
  });

const frame = () => new Promise<unknown>((done) => requestAnimationFrame(done));
const isSettled = () => document.querySelector('[aria-label="Scene"][data-settled="true"]') !== null;

/** What a key or click just began has reached the stores two frames later; then only the mark counts. */
async function settled(): Promise<void> {
  await frame();
  await frame();
  if (isSettled()) return;
  await new Promise<void>((done) => {
    const watch = new MutationObserver(() => {
      if (!isSettled()) return;
      watch.disconnect();
      done();
    });
    watch.observe(document.body, { subtree: true, childList: true, attributeFilter: ['data-settled'] });
  });
}
