import './bootstrap.scss';
import './theme.css';
import './fernmoss.css';
import type { Metadata } from 'next';
import localFont from 'next/font/local';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import { EarlyInputAnswered } from '@/ui/kit/early-input-answered';
import { holdEarlyInput } from '@/ui/kit/early-input';
import { NoStrayDrops } from '@/ui/kit/no-stray-drops';

// Asked for with the page; one that comes too late waits for the next page, so that nothing jumps.
const words = localFont({
  src: '../../node_modules/@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2',
  weight: '200 800',
  display: 'optional',
  variable: '--fm-font-words',
});
const figures = localFont({
  src: '../../node_modules/@fontsource-variable/atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-wght-normal.woff2',
  weight: '200 800',
  display: 'optional',
  variable: '--fm-font-figures',
  adjustFontFallback: false,
});

export const metadata: Metadata = {
  title: 'Fernmoss',
  description: 'From the recordings of a song to a package for the mixer',
  icons: { icon: '/fern.svg' },
};

/** Sets theme and size of type before the first paint, so that nothing flashes or jumps; holds what comes too early. */
const FIRST_SCRIPT = `document.documentElement.dataset.bsTheme=localStorage.getItem('fernmoss-theme')||(matchMedia('(prefers-color-scheme: dark)').matches?'dark':'light');const s=localStorage.getItem('fernmoss-type-size');if(/^(90|112|125|150)$/.test(s||''))document.documentElement.style.fontSize=s+'%';(${holdEarlyInput.toString()})()`;

export default async function RootLayout({ children }: { children: ReactNode }) {
  const policy = (await headers()).get('content-security-policy') ?? '';
  const nonce = /'nonce-([^']+)'/.exec(policy)?.[1];
  return (
    <html lang="en" className={`${words.variable} ${figures.variable}`} suppressHydrationWarning>
      <head>
        <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: FIRST_SCRIPT }} />
      </head>
      <body>
        {children}
        <NoStrayDrops />
        <EarlyInputAnswered />
      </body>
    </html>
  );
}
