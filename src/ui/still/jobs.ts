import type { Vec3 } from '@/core/math/vec3';
import type { Viewpoint } from '@/core/scene/viewpointSchema';
import type { Looks, StillSpec } from '@/view/still/spec';
import { fileName } from '../dialogs/download';

/** Which still pictures are asked for: of which views, how large, how many of a row. */

export const VIEW_NOW = 'now';

export interface StillChoices {
  /** Ids of viewpoints; `VIEW_NOW` is the view as it is. */
  views: readonly string[];
  /** Of the longer side, pixels. */
  size: number;
  frames: StillSpec['frames'];
  background: StillSpec['background'];
  color: string;
  format: StillSpec['format'];
  beside: boolean;
  /** One picture a view, a turn around its aim, or a stretch of time. */
  row: 'one' | 'turn' | 'time';
  count: number;
  from: number;
  to: number;
  rate: number;
}

/** Pictures at once, at most. */
export const MOST_IN_ROW = 2000;

/** Something that is looked at, with the shape of its frame. */
export type Framed = Looks & Pick<Viewpoint, 'name' | 'aspect'>;

/** Pixels of a picture whose longer side has so many. */
export function sizeOf(aspect: number, longer: number): { width: number; height: number } {
  const short = (of: number) => Math.max(1, Math.round(of));
  return aspect >= 1
    ? { width: longer, height: short(longer / aspect) }
    : { width: short(longer * aspect), height: longer };
}

/** A place turned about the upright through another one. */
export function turned([x, y, z]: Vec3, [ax, , az]: Vec3, radians: number): Vec3 {
  const [cos, sin] = [Math.cos(radians), Math.sin(radians)];
  return [ax + (x - ax) * cos + (z - az) * sin, y, az - (x - ax) * sin + (z - az) * cos];
}

/** One picture of a job. */
export interface Job {
  spec: StillSpec;
  /** Seconds; null: as it is. */
  time: number | null;
}

/** How many pictures there are of each view. */
export const inRow = ({ row, count, from, to, rate }: StillChoices): number =>
  row === 'turn' ? count : row === 'time' ? Math.round(Math.abs(to - from) * rate) + 1 : 1;

/** The pictures that are asked for, in their order. */
export function jobsOf(choices: StillChoices, viewpoints: readonly Viewpoint[], now: Framed): Job[] {
  const { frames, background, color, format, beside, row } = choices;
  const views = choices.views.flatMap((id) => {
    const found = id === VIEW_NOW ? now : viewpoints.find((v) => v.id === id);
    return found ? [found as Framed] : [];
  });
  const count = inRow(choices);
  const names = new Set<string>();
  return views.flatMap((view) => {
    let stem = fileName(view.name, '').replace(/\.$/, '');
    // Two views of one name stay two files.
    for (let k = 2; names.has(stem); k++) stem = `${stem.replace(/-\d+$/, '')}-${k}`;
    names.add(stem);
    return Array.from({ length: count }, (_, i): Job => {
      const eye = row === 'turn' ? turned(view.eye, view.aim, (i / count) * 2 * Math.PI) : view.eye;
      return {
        time:
          row === 'time' ? choices.from + (Math.sign(choices.to - choices.from) * i) / choices.rate : null,
        spec: {
          name: row === 'one' ? stem : `${stem}-${String(i).padStart(4, '0')}`,
          from: { eye, aim: view.aim, focal: view.focal, focus: view.focus, straight: view.straight },
          ...sizeOf(view.aspect, choices.size),
          ...{ frames, background, color, format, beside },
        },
      };
    });
  });
}
