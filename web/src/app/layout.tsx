import type { Metadata } from 'next';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import '@fontsource-variable/instrument-sans';
import '@fontsource/spline-sans-mono';
import { GlobalStyle } from '@/ui/GlobalStyle';
import { StyleRegistry } from '@/ui/registry';

export const metadata: Metadata = { title: { default: 'Umbo', template: '%s · Umbo' } };

export default async function Layout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get('x-nonce') ?? undefined;
  return (
    <html lang="en">
      {/* styled-components and React Aria take the nonce from here before any component renders */}
      <head>{nonce ? <meta property="csp-nonce" nonce={nonce} /> : null}</head>
      <body>
        <StyleRegistry nonce={nonce}>
          <GlobalStyle />
          {children}
        </StyleRegistry>
      </body>
    </html>
  );
}
