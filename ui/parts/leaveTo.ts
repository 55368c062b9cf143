const FIRST_SCREEN = "/desk";

/** Goes to a page by loading it whole: who is signed in has changed, so nothing kept in memory may stay. */
export function leaveTo(path: string) {
  window.location.assign(path);
}

/** Where one signs in, and comes back from to the screen that is shown now. What stands behind `#` is sent nowhere. */
export function signInAndBack(): string {
  return signInFor(window.location.pathname + window.location.search);
}

/** Where one signs in for a screen. */
export function signInFor(screen: string): string {
  return screen === "/" || screen === FIRST_SCREEN ? "/sign-in" : `/sign-in?to=${encodeURIComponent(screen)}`;
}

/** A screen of ours that an address names, or the first one: nobody is led to another site. */
export function screenIn(to: string | null): string {
  const isOurs = to !== null && /^\/[a-z]/.test(to) && !to.startsWith("/sign-in") && !to.startsWith("/api/");
  return isOurs ? to : FIRST_SCREEN;
}
