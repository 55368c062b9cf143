import { AsyncLocalStorage } from "node:async_hooks";

/*
 * Node asks every asynchronous storage at every promise, as long as the process lives, and packages that tests load make
 * some for each file of tests. They are ended with it, so that the last files aren't slower than the first.
 */
const { run, enterWith } = AsyncLocalStorage.prototype;
const used = new Set<AsyncLocalStorage<unknown>>();

AsyncLocalStorage.prototype.run = function (this: AsyncLocalStorage<unknown>, ...given: unknown[]) {
  used.add(this);
  return run.apply(this, given as never);
} as typeof run;
AsyncLocalStorage.prototype.enterWith = function (this: AsyncLocalStorage<unknown>, store: unknown) {
  used.add(this);
  enterWith.call(this, store);
};

afterAll(() => {
  Object.assign(AsyncLocalStorage.prototype, { run, enterWith });
  for (const storage of used) storage.disable();
});
