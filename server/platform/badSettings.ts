/** What was set from outside can't be used: the message says which settings, and why. */
export class BadSettings extends Error {}
