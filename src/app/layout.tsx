import type { Metadata } from 'next';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import '@fontsource-variable/bricolage-grotesque';
import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/atkinson-hyperlegible-mono';
import './globals.css';

export const metadata: Metadata = {
  title: 'Clothesline',
  description: 'Hang props along paths and pin them onto surfaces.',
};

/** Sets the theme before the first paint, so that dusk does not flash up bright. */
const THEME = `try{const t=localStorage.getItem('theme');if(t)document.documentElement.dataset.theme=t}catch{}`;

export default async function RootLayout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get('x-nonce') ?? undefined;
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: THEME }} />
      </head>
      <body>{children}</body>
    </html>
  );
}
