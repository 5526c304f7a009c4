'use client';

import { useEffect } from 'react';
import '@fontsource-variable/bricolage-grotesque';
import '@fontsource-variable/atkinson-hyperlegible-next';
import { Broken } from '@/ui/shell/Broken';
import './globals.css';

/** Where the break took the whole page with it, its frame too. */
export default function WholePageBroken({ error }: { error: unknown }) {
  useEffect(() => {
    try {
      const kept = localStorage.getItem('theme');
      if (kept) document.documentElement.dataset.theme = kept;
    } catch {
      // Where the browser keeps nothing it is day.
    }
  }, []);
  return (
    <html lang="en">
      <body>
        <Broken error={error} />
      </body>
    </html>
  );
}
