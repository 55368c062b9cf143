/** Waits for a condition, looking often; says what did not happen and what was said meanwhile. */
export async function until(
  condition: () => boolean | Promise<boolean>,
  what: string,
  said: () => string,
  withinMs = 150_000,
): Promise<void> {
  const end = Date.now() + withinMs;
  while (!(await condition())) {
    if (Date.now() > end) throw new Error(`It did not ${what} in time. It said:\n${said()}`);
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}
