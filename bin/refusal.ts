/** A file or a value in it is bad: exit status 1. Status 2 is for an unknown person or item, or a wrong call. */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}
