import '@fontsource-variable/atkinson-hyperlegible-next/wght.css';
import '@fontsource-variable/atkinson-hyperlegible-mono/wght.css';
import 'bootstrap/dist/css/bootstrap.min.css';
import 'bootstrap-icons/font/bootstrap-icons.css';
import './theme.css';
import './fernmoss.css';
import type { Metadata } from 'next';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';

export const metadata: Metadata = {
  title: 'Fernmoss',
  description: 'From the recordings of a song to a package for the mixer',
  icons: { icon: '/fern.svg' },
};

/** Sets the theme before the first paint, so that nothing flashes. */
const THEME_SCRIPT = `document.documentElement.dataset.bsTheme=localStorage.getItem('fernmoss-theme')||(matchMedia('(prefers-color-scheme: dark)').matches?'dark':'light')`;

export default async function RootLayout({ children }: { children: ReactNode }) {
  const policy = (await headers()).get('content-security-policy') ?? '';
  const nonce = /'nonce-([^']+)'/.exec(policy)?.[1];
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: THEME_SCRIPT }} />
      </head>
      <body>{children}</body>
    </html>
  );
}
