'use client';
import { createGlobalStyle } from 'styled-components';

/** The tokens. Chrome has no colour of its own: the only colour on the screen is the picture's. */
export const GlobalStyle = createGlobalStyle`
  :root {
    --stage: #757575; --panel: #e6e6e6; --well: #d6d6d6; --raised: #f5f5f5; --line: #bcbcbc; --edge: #767676;
    --ink: #191919; --ink2: #4d4d4d; --on-ink: #ffffff; --track: #a8a8a8;
    --radius: 3px;
    --sans: 'Instrument Sans Variable', sans-serif;
    --mono: 'Spline Sans Mono', monospace;
    color-scheme: light;
  }
  :root[data-chrome='dark'] {
    --panel: #2b2b2b; --well: #222222; --raised: #3a3a3a; --line: #4c4c4c; --edge: #8a8a8a;
    --ink: #ededed; --ink2: #b9b9b9; --on-ink: #161616; --track: #6a6a6a;
    color-scheme: dark;
  }
  *, *::before, *::after { box-sizing: border-box; }
  html, body { height: 100%; }
  body { margin: 0; background: var(--panel); color: var(--ink); font: 400 14px/20px var(--sans); }
  h1, h2, h3, p { margin: 0; }
  button, input { font: inherit; color: inherit; }
  a { color: inherit; }
  ::selection { background: var(--ink); color: var(--on-ink); }
  [data-focus-visible], :focus-visible { outline: 2px solid var(--ink); outline-offset: 2px; }
  @media (prefers-reduced-motion: reduce) { *, *::before, *::after { transition: none !important; animation: none !important; } }
`;
