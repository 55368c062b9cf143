/** Settings from the environment can't be used: the message says which, and why. */
export class BadSettings extends Error {}
