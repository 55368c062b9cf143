const SCREENS = "/register";

/** Goes to a page by loading it whole: who is signed in has changed, so nothing kept in memory may stay. */
export function leaveTo(path: string) {
  window.location.assign(path);
}

/** Where one signs in, and comes back from to the screen that is shown now. */
export function signInAndBack(): string {
  const { pathname, search, hash } = window.location;
  return signInFor(pathname + search + hash);
}

/** Where one signs in for a screen. */
export function signInFor(screen: string): string {
  return screen === "/" || screen === SCREENS ? "/sign-in" : `/sign-in?to=${encodeURIComponent(screen)}`;
}

/** A screen of ours that an address names, or the first one: nobody is led to another site. */
export function screenIn(to: string | null): string {
  const isOurs = to !== null && /^\/[a-z]/.test(to) && !to.startsWith("/sign-in") && !to.startsWith("/api/");
  return isOurs ? to : SCREENS;
}
