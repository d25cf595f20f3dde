import type { Metadata } from 'next';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import '@fontsource-variable/instrument-sans';
import '@fontsource/spline-sans-mono';
import { DoneNotice } from './DoneNotice';
import { GlobalStyle } from '@/ui/GlobalStyle';
import { NonceMeta, StyleRegistry } from '@/ui/registry';

export const metadata: Metadata = { title: { default: 'Umbo', template: '%s · Umbo' } };

export default async function Layout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get('x-nonce') ?? undefined;
  return (
    <html lang="en">
      <head>
        <NonceMeta nonce={nonce} />
      </head>
      <body>
        <StyleRegistry nonce={nonce}>
          <GlobalStyle />
          {children}
          <DoneNotice />
        </StyleRegistry>
      </body>
    </html>
  );
}
