import { canTravel, travelOf, type Arrangement } from '@/core/arrange/registry';
import { canLie, setRelease } from '@/store/commands/release';
import { setPoses } from '@/store/commands/poses';
import { setTravel } from '@/store/commands/travel';
import { dispatch, useDocument } from '@/store/document';
import type { MenuEntry } from '../controls/PlainMenu';
import { uiOf } from '../kinds/registry';
import { leaveAsItLies } from '../recipe/leaveAsItLies';
import { clipsOf } from '../recipe/clipsOf';
import { letFall } from '../recipe/letFall';
import { letPlay } from '../recipe/letPlay';
import { letTravel } from '../recipe/letTravel';

/** What lets an arrangement move: as a whole, or each of its props as it falls. */
export const motionEntries = (a: Arrangement): MenuEntry[] => [
  ...posesEntries(a),
  ...travelEntries(a),
  ...releaseEntries(a),
];

/** Playing the animations that its props bring along. */
function posesEntries(a: Arrangement): MenuEntry[] {
  if (!a.poses && clipsOf(a, useDocument.getState().scene).length === 0) return [];
  const isOn = a.poses?.on === true;
  return [
    {
      text: isOn ? 'Let it rest' : 'Let it play',
      hint: isOn
        ? 'Its props stand as they are at rest'
        : 'Its props play the animations that they bring along',
      run: () => (isOn ? void dispatch(setPoses, { id: a.id, values: { on: false } }) : letPlay(a.id)),
    },
  ];
}

/** Moving all of it, over what it stands on. */
function travelEntries(a: Arrangement): MenuEntry[] {
  if (!canTravel(a)) return [];
  const isOn = travelOf(a)?.on === true;
  return [
    {
      text: isOn ? 'Let it stay' : 'Let it travel',
      hint: isOn
        ? 'It stands as the recipe says'
        : 'All of it moves over a surface, along a path or about an axis',
      run: () => (isOn ? void dispatch(setTravel, { id: a.id, values: { on: false } }) : letTravel(a)),
    },
  ];
}

/** Letting props fall, and leaving them where they have fallen to. */
function releaseEntries(a: Arrangement): MenuEntry[] {
  if ((uiOf(a).holds?.(a) ?? null) !== null) return [];
  const isOn = a.release?.on === true;
  return [
    {
      text: isOn ? 'Hold it again' : 'Let it fall',
      hint: isOn
        ? 'Its props stand as the recipe says'
        : 'From a moment on its props fall, onto surfaces and each other',
      run: () => (isOn ? void dispatch(setRelease, { id: a.id, values: { on: false } }) : letFall(a.id)),
    },
    ...(isOn && canLie(a)
      ? [
          {
            text: 'Take as it lies',
            hint: 'What you see stays as it lies, by hand',
            run: () => void leaveAsItLies(a),
          },
        ]
      : []),
  ];
}
