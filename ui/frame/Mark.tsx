/** The product's mark: four bars behind one bolt. */
export function Mark({ size = 26 }: { size?: number }) {
  return (
    <svg width={size} height={(size * 20) / 26} viewBox="0 0 26 20" aria-hidden>
      <g fill="var(--band-act)">
        <rect x="1" y="2" width="4" height="16" rx="1" />
        <rect x="8" y="2" width="4" height="16" rx="1" />
        <rect x="15" y="2" width="4" height="16" rx="1" />
        <rect x="22" y="2" width="4" height="16" rx="1" />
        <rect x="0" y="8.4" width="26" height="3.2" rx="1" stroke="var(--band)" strokeWidth="1.2" />
      </g>
    </svg>
  );
}
