/** Goes to a page by loading it whole: who is signed in has changed, so nothing kept in memory may stay. */
export function leaveTo(path: "/register" | "/sign-in" | "/account") {
  window.location.assign(path);
}
