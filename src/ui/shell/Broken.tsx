'use client';

import { useEffect } from 'react';

/** In place of a page that broke: what happened, and the way back. What was done is kept with each step. */
export function Broken({ error }: { error: unknown }) {
  const what = error instanceof Error ? error.message : String(error);
  useEffect(() => {
    document.title = 'Clothesline: something broke';
  }, []);
  return (
    <main className="mx-auto mt-32 max-w-md px-6">
      <h1 className="font-display text-2xl font-semibold">Something broke on this page</h1>
      <p role="alert" className="my-3">
        {`“${what}” Your scenes are kept with every step: nothing that was said to be saved is lost.`}
      </p>
      {/* Both load everything anew: what broke may be anywhere. */}
      <p className="flex gap-5">
        <button type="button" className="underline underline-offset-2" onClick={() => location.reload()}>
          Open it again
        </button>
        <button
          type="button"
          className="underline underline-offset-2"
          onClick={() => void (location.href = location.origin)}
        >
          Back to the scenes
        </button>
      </p>
    </main>
  );
}
