'use client';

import { useEffect, useMemo, useState } from 'react';
import { hasPoints } from '@/core/curve/schema';
import { profilePlane, type ProfilePlane } from '@/core/mesh/make/profilePlane';
import { plainProfile } from '@/core/mesh/make/profiles';
import type { Surface } from '@/core/mesh/surfaceSchema';
import { drawProfile } from '@/store/commands/profiles';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { Button } from '../controls/Button';
import { Choice } from '../controls/Choice';
import { WHOLE } from '../flat/look';
import { useSize } from '../flat/useSize';
import { ZoomButtons } from '../flat/ZoomButtons';
import { Handles } from './Handles';
import { NewProfile } from './NewProfile';
import { PointFields } from './PointFields';
import { asPoints, flatOf, profiledShape, profilePlan, profilesOf } from './profile';
import { FlatHead, HeadWords } from '../flat/FlatHead';

/** Upright, as a plain profile and one that is about to be drawn are. */
const UPRIGHT: ProfilePlane = { h: 0, v: 1, up: 1 };

/** The profile of a surface that is swept, turned or lofted, flat, and edited in place. */
export function ProfileFlat({ surface }: { surface: Surface }) {
  const [frame, size] = useSize();
  const shape = profiledShape(surface)!;
  const readOnly = useDocument((s) => s.readOnly !== null);
  const paths = useDocument((s) => s.scene.paths);
  const ids = profilesOf(shape);
  const [chosen, choose] = useState('');
  const id = ids.includes(chosen) ? chosen : ids[0];
  const path = paths.find((p) => p.id === id);
  const stroke = useEngine((s) => (id ? s.result.paths.get(id)?.strokes[0] : undefined));
  const [drawing, draw] = useState(false);
  const [held, hold] = useState<string | null>(null);
  const [dragged, drag] = useState(false);
  const plain = shape.shape === 'swept' && shape.profile === null;
  const plane = useMemo(() => (stroke ? profilePlane(stroke.position) : UPRIGHT), [stroke]);
  const outline = useMemo(() => {
    if (shape.shape === 'swept' && plain)
      return plainProfile(shape.plain).flatMap((side) =>
        side.map(([x, y]): [number, number] => [x * shape.width, y * shape.height]),
      );
    const places: [number, number][] = [];
    for (let i = 0; stroke && i < stroke.position.length; i += 3)
      places.push(flatOf(stroke.position.subarray(i, i + 3), plane));
    return places;
  }, [shape, plain, stroke, plane]);
  /** Where it goes along its path, or the axis that it is turned about. */
  const [ax, ay] = shape.shape === 'turned' ? flatOf(shape.axis, plane) : middleOf(outline);
  const [mx, my] = middleOf(outline);
  // Room for a new one that is half as large again; the axis is always seen.
  const seen = drawing
    ? outline.map(([x, y]): [number, number] => [1.5 * (x - mx), 1.5 * (y - my)])
    : shape.shape === 'turned'
      ? [...outline, [ax, outline[0]?.[1] ?? 0] as const]
      : outline;
  const fit = profilePlan(seen, size);
  // What is dragged stays under the pointer: it is fitted anew when it is let go of.
  const [kept, keep] = useState(fit);
  const plan = dragged ? kept : fit;
  useEffect(() => {
    if (!dragged) keep(fit);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what is seen and the size are all that it is made of
  }, [dragged, outline, size.width, size.height, drawing]);
  const own = hasPoints(path) && !path.source.on ? path : undefined;
  const point = own?.source.points.find((p) => p.id === held);
  const d = outline
    .map((p) =>
      plan
        .at(...p)
        .map((v) => v.toFixed(1))
        .join(' '),
    )
    .join('L');
  return (
    <div className="flex h-full flex-col">
      <FlatHead title="Profile">
        {ids.length > 1 && (
          <Choice
            label="Path"
            hint="Which of the paths that it goes through"
            value={id}
            options={ids.flatMap((one) => {
              const found = paths.find((p) => p.id === one);
              return found ? [{ value: one, text: found.name }] : [];
            })}
            onChange={choose}
          />
        )}
        <HeadWords
          fills
          words={
            drawing
              ? 'Click places; Enter closes the profile, Escape lets it go.'
              : plain
                ? 'A plain profile. Draw one of your own, or go on from this one.'
                : own
                  ? 'Drag a point, or use the arrow keys; click the line for another one; Delete takes it out.'
                  : path
                    ? 'This path is made from something else, and is edited there.'
                    : 'The path that was its profile is gone. Choose another one on the right.'
          }
        />
        {own && point && !drawing && <PointFields path={own} point={point} plane={plane} />}
        {plain && !readOnly && !drawing && (
          <Button
            look="bordered"
            title="The plain profile as a path whose points can be moved"
            onClick={() => dispatch(drawProfile, { surface: surface.id, points: asPoints(shape) })}
          >
            Turn into points
          </Button>
        )}
        {shape.shape === 'swept' && !readOnly && !drawing && (
          <Button look="bordered" title="Click its places, one after the other" onClick={() => draw(true)}>
            Draw anew
          </Button>
        )}
        <ZoomButtons what="the profile" look={WHOLE} onWhole={() => undefined} />
      </FlatHead>
      <div ref={frame} className="relative min-h-0 flex-1 overflow-hidden" data-testid="profile">
        {size.width > 0 && outline.length + Number(drawing) > 0 && (
          <svg width={size.width} height={size.height} className="absolute inset-0 block">
            <Across
              at={drawing ? plan.at(0, 0) : plan.at(ax, ay)}
              upright={shape.shape === 'turned'}
              size={size}
            />
            {drawing ? (
              <NewProfile
                size={size}
                plan={plan}
                onDone={(points) => {
                  draw(false);
                  if (points.length > 2) dispatch(drawProfile, { surface: surface.id, points });
                }}
              />
            ) : (
              <>
                <path
                  d={d && `M${d}${shape.shape === 'turned' && !path?.closed ? '' : 'Z'}`}
                  fill={shape.shape === 'turned' && !path?.closed ? 'none' : 'var(--well)'}
                  stroke="var(--text)"
                  strokeWidth={1.6}
                />
                {own && stroke && !readOnly && (
                  <Handles
                    path={own}
                    stroke={stroke}
                    plane={plane}
                    plan={plan}
                    held={held}
                    onHold={hold}
                    onDrag={drag}
                  />
                )}
              </>
            )}
          </svg>
        )}
      </div>
    </div>
  );
}

function middleOf(places: readonly (readonly [number, number])[]): [number, number] {
  const [x, y] = [0, 1].map((k) => {
    const all = places.map((p) => p[k]);
    return all.length ? (Math.min(...all) + Math.max(...all)) / 2 : 0;
  });
  return [x, y];
}

/** Where it goes along its path: a cross; or the axis that it is turned about: an upright line. */
function Across(props: { at: [number, number]; upright: boolean; size: { width: number; height: number } }) {
  const { at, upright, size } = props;
  const [x, y] = at;
  return (
    <g aria-hidden pointerEvents="none" stroke="var(--edge)" strokeDasharray="3 4">
      <path d={`M${x} 0V${size.height}`} />
      {!upright && <path d={`M0 ${y}H${size.width}`} />}
    </g>
  );
}
