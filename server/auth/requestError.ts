/** Said to whoever asked; anything else that is thrown is ours, and is logged and not shown. */
export class RequestError extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}
