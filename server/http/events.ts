import type { EventEmitter } from "node:events";

/** At most ten messages a second go out, whatever the rate of what happens. */
const EVERY_MS = 100;

/**
 * A stream of server-sent events: one at once, then one whenever `name` is emitted, until the reader
 * goes away. Each is made when it is sent, so the newest state is what arrives.
 */
export function eventStream(
  request: Request,
  emitter: EventEmitter,
  name: string,
  current: () => Promise<unknown>,
): Response {
  const encoder = new TextEncoder();
  let timer: NodeJS.Timeout | undefined;
  const stream = new ReadableStream({
    start(controller) {
      const send = async () => {
        timer = undefined;
        const data = JSON.stringify(await current());
        if (!request.signal.aborted) controller.enqueue(encoder.encode(`data: ${data}\n\n`));
      };
      const soon = () => (timer ??= setTimeout(send, EVERY_MS));
      emitter.on(name, soon);
      request.signal.addEventListener("abort", () => {
        emitter.off(name, soon);
        clearTimeout(timer);
        controller.close();
      });
      void send();
    },
  });
  return new Response(stream, {
    headers: { "Content-Type": "text/event-stream", "Cache-Control": "no-cache, no-transform" },
  });
}
