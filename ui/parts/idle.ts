let touchedAt = Date.now();

if (typeof window !== "undefined")
  for (const event of ["pointerdown", "keydown", "wheel", "touchstart"])
    window.addEventListener(event, () => (touchedAt = Date.now()), { passive: true, capture: true });

/** For how many seconds nobody has touched this page: what it asks by itself meanwhile keeps nobody signed in. */
export function idleSeconds(): number {
  return Math.floor((Date.now() - touchedAt) / 1_000);
}
