import { EventEmitter } from "node:events";
import { eventStream } from "./events";

test("however much happens, ten messages a second go out at most, each with the newest state", async () => {
  jest.useFakeTimers();
  const emitter = new EventEmitter();
  const leaving = new AbortController();
  let state = 0;
  const request = new Request("http://127.0.0.1/", { signal: leaving.signal });
  const { body } = eventStream(request, emitter, "docket", async () => state);
  const seconds = 3;
  for (let ms = 0; ms < seconds * 1_000; ms++) {
    state++;
    emitter.emit("docket");
    await jest.advanceTimersByTimeAsync(1);
  }
  await jest.advanceTimersByTimeAsync(200);
  leaving.abort();
  expect(emitter.listenerCount("docket")).toBe(0);
  const messages = (await new Response(body).text()).split("\n\n").filter(Boolean);
  expect(messages.length).toBeLessThanOrEqual(10 * seconds + 2);
  expect(messages.length).toBeGreaterThan(seconds);
  expect(messages.at(-1)).toBe(`data: ${state}`);
  jest.useRealTimers();
});
