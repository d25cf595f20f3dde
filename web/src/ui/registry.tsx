'use client';
import { useServerInsertedHTML } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import { ServerStyleSheet, StyleSheetManager } from 'styled-components';

interface Props {
  /** The nonce of the page's Content-Security-Policy. */
  nonce: string | undefined;
}

/** Tells styled-components and React Aria the nonce, before any component renders. */
export function NonceMeta({ nonce }: Props) {
  const [first] = useState(nonce);
  return first ? <meta property="csp-nonce" nonce={first} /> : null;
}

/** Collects the styles of a server-rendered page. */
export function StyleRegistry({ children, nonce: latest }: Props & { children: ReactNode }) {
  // A refresh of the page's data comes with another nonce, but the document keeps the policy it was loaded with.
  const [nonce] = useState(latest);
  const [sheet] = useState(() => new ServerStyleSheet({ nonce }));
  useServerInsertedHTML(() => {
    const styles = sheet.getStyleElement();
    sheet.instance.clearTag();
    return <>{styles}</>;
  });
  if (typeof window !== 'undefined') return <StyleSheetManager nonce={nonce}>{children}</StyleSheetManager>;
  return (
    <StyleSheetManager sheet={sheet.instance} nonce={nonce}>
      {children}
    </StyleSheetManager>
  );
}
