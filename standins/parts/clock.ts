/** The stand-ins' own clock: the real one, or the instant in LATCH_NOW for tests and pictures. */
export function now(): Date {
  const fixed = process.env.LATCH_NOW;
  return fixed ? new Date(fixed) : new Date();
}

/** Now as records hold it: whole seconds in UTC. */
export function nowText(): string {
  return now()
    .toISOString()
    .replace(/\.\d+Z$/, "Z");
}
