/** Where the browser is that the tests and the pictures use. */
export const CHROMIUM = process.env.CHROMIUM ?? "/usr/bin/chromium-headless-shell";
