import type { Assets, SceneResult } from '../../evaluate/scene';
import type { Scene } from '../../scene/schema';
import { FileError } from '../limits';
import { writeObj } from './objWrite';
import { mergedParts, type MergedOptions, type MergedPart } from './parts';
import { writeStl } from './stlWrite';
import { MERGED, type MergedFormat } from './units';
import { writeThreeMf } from './threeMfWrite';

export { mergedFacts, type MergedFacts } from './facts';
export type { MergedOptions } from './parts';
export type { MergedFormat } from './units';

/** What is shown, as a file without instances. @throws FileError where that is nothing, or more than it can hold */
export function writeMerged(
  format: MergedFormat,
  scene: Scene,
  result: SceneResult,
  assets: Assets,
  options: MergedOptions,
): Uint8Array {
  const { unit, perMetre } = MERGED[format];
  const parts: MergedPart[] = mergedParts(scene, result, assets, options, perMetre);
  if (parts.length === 0) throw new FileError('Nothing that is shown has a face. Show what is to go out.');
  if (format === 'stl') return writeStl(parts, unit);
  return format === 'obj' ? writeObj(parts, unit) : writeThreeMf(parts, scene.name);
}
