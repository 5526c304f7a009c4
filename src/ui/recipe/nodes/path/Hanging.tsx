'use client';

import type { PointsPath } from '@/core/curve/schema';
import { hangPath } from '@/store/commands/hanging';
import { dispatch } from '@/store/document';
import { HangFields } from '../../../controls/HangFields';
import { LinkScope } from '../../../controls/LinkScope';
import { Toggle } from '../../../controls/Toggle';

/** Whether the sides of a path hang between its points, and how. */
export function Hanging({ path }: { path: PointsPath }) {
  const { hang, on } = path.source;
  if (on) return null;
  return (
    <div role="group" aria-label="Hanging">
      <Toggle
        label="Hangs"
        hint="Its sides hang between its points, as a line or a rope does"
        value={hang !== undefined}
        onChange={(hangs) => dispatch(hangPath, { path: path.id, values: hangs ? {} : null })}
      />
      {hang && (
        <LinkScope node={path.id} at="source.hang">
          <HangFields hang={hang} set={(values, key) => dispatch(hangPath, { path: path.id, values }, key)} />
        </LinkScope>
      )}
    </div>
  );
}
