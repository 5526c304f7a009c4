import { linksTo } from '@/store/commands/links';
import { removeNodes } from '@/store/commands/nodes';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';

/** Removes nodes. Numbers that were taken from them stay as they were last. */
export function removeThese(ids: string[]): void {
  const { links } = engine().state.result;
  const numbers = linksTo(useDocument.getState().scene, ids).flatMap(({ id: link }) => {
    const value = links.find((l) => l.id === link)?.value;
    return typeof value === 'number' ? [{ link, value }] : [];
  });
  dispatch(removeNodes, { ids, numbers });
}
