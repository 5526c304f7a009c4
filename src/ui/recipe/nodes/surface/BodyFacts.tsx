'use client';

import { useEffect, useState } from 'react';
import type { Printable } from '@/core/mesh/solid/printable';
import type { SolidFacts } from '@/core/mesh/solid/facts';
import { useDocument } from '@/store/document';
import { engine, useEngine } from '@/store/engine';
import { plural } from '@/words/numbers';
import { short } from './Printed';

/** Milliseconds that it has to rest: what it is as a body takes longer to find out than a frame does. */
const REST = 250;

/** What a surface is as a body; undefined until that is known, null where it is none. */
export type Body = SolidFacts | null | undefined;

/** What a surface is as a body, and what a printer makes of it: told when it rests, and until then what it was. */
export function useBody(id: string): { body: Body; looked: Printable | null } {
  const key = useEngine((s) => s.result.surfaces.get(id)?.key);
  const print = useDocument((s) => s.scene.print);
  const [body, setBody] = useState<Body>();
  const [looked, setLooked] = useState<Printable | null>(null);
  const asked = JSON.stringify(print);
  useEffect(() => {
    if (key === undefined) return;
    let current = true;
    const tell = async () => {
      const found = await engine().solidOf(id);
      if (!current) return;
      setBody(found);
      const more = found?.closed ? await engine().printable(id, print) : null;
      if (current) setLooked(more);
    };
    const rested = setTimeout(() => void tell(), REST);
    return () => {
      current = false;
      clearTimeout(rested);
    };
    // The text stands for what it is printed by.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [id, key, asked]);
  return { body, looked };
}

/** What a surface is as a body, in a line that is there from the beginning: nothing below it moves when it is known. */
export function BodyFacts({ body }: { body: Body }) {
  if (body === null) return null;
  return (
    <section aria-label="As a body">
      <p className="text-[12.5px] text-soft">{body ? bodyText(body) : 'Open or closed: being looked at.'}</p>
    </section>
  );
}

/** "Closed: 0.6 m³ within 13 m² of faces." */
function bodyText({ closed, open, unsound, volume, area }: SolidFacts): string {
  const faces = `${short(area)} m² of faces`;
  if (closed && volume !== null)
    return volume < 0
      ? `Closed, but inside out: ${short(-volume)} m³ within ${faces}.`
      : `Closed: ${short(volume)} m³ within ${faces}.`;
  const why = [
    open > 0 && `${plural(open, 'edge')} at its borders`,
    unsound > 0 && `${plural(unsound, 'edge')} where more than two faces meet, or disagree`,
  ].filter(Boolean);
  return `Open, ${faces}: ${why.join(', ')}.`;
}
