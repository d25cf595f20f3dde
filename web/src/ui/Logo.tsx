/** Growth rings about a point: the raised middle of a shield. */
export function Logo({ size = 26 }: { size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 26 26" fill="none" stroke="currentColor" strokeWidth="1.4" aria-hidden>
      <circle cx="13" cy="13" r="12" />
      <circle cx="12" cy="15" r="8.6" />
      <circle cx="11" cy="16.6" r="5.4" />
      <circle cx="10.2" cy="18" r="2.3" fill="currentColor" />
    </svg>
  );
}

/** The rings that stand where there is nothing yet. */
export function Rings({ size = 120 }: { size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 120 120" fill="none" stroke="currentColor" strokeWidth="1" aria-hidden>
      {[56, 46, 36.5, 27.5, 19, 11, 4].map((r, i) => (
        <ellipse key={r} cx={60 - i * 1.6} cy={60 + i * 2.2} rx={r} ry={r * (0.93 + i * 0.01)} opacity={0.35 + i * 0.09} />
      ))}
    </svg>
  );
}
