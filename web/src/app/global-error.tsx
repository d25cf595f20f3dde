'use client';
export default function GlobalError({ reset }: { reset: () => void }) {
  return (
    <html lang="en">
      <body>
        <h1>Umbo could not be shown</h1>
        <p>Your photographs and edits are kept.</p>
        <button onClick={reset}>Try again</button>
      </body>
    </html>
  );
}
