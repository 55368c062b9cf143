import { EventEmitter } from "node:events";
import { z } from "zod";
import { operations } from "@/contract/operation";
import { Peers } from "../platform/peers";
import { Clock } from "../platform/clock";
import { actorOf } from "@/tests/actor";
import type { Actor, Handlers } from "../platform/serving";
import { Server, type Serving } from "./serve";

const HERE = "http://127.0.0.1:4310";
const emitter = new EventEmitter();
let state = 0;

const tried = operations({
  news: { method: "GET", path: "/api/news", may: "read", answer: { events: z.number() } },
  told: { method: "POST", path: "/api/told/:id", may: "read", body: z.object({ n: z.int() }), answer: z.unknown() },
  save: {
    method: "POST",
    path: "/api/file",
    may: "read",
    past: true,
    sentBy: "form",
    body: z.object({ name: z.string() }),
    answer: "file",
  },
});
const handlers: Handlers<Serving, typeof tried> = {
  news: () => ({ emitter, name: "news", current: async () => ++state }),
  told: (_, { params, body }) => ({ ...params, ...body }),
  save: (_, { body, past }) => ({ type: "text/plain", name: "a.txt", body: `${body.name} ${past}` }),
};
const ada = actorOf("ada@home.example", "auditor");
let actor: Actor | null = ada;
const app = {
  settings: { url: HERE },
  clock: new Clock(new Date("2026-10-05T08:00:00Z")),
  peers: new Peers([]),
  ending: new AbortController(),
  actorFrom: async () => actor,
} as unknown as Serving & { ending: AbortController };
const server = new Server(app).serve(tried, handlers);
const ask = (path: string, init: RequestInit = {}) =>
  server.fetch(new Request(`${HERE}${path}`, { ...init, headers: { Origin: HERE, ...init.headers } }));
const post = (body: BodyInit, type: string) =>
  ask("/api/told/7", { method: "POST", body, headers: { "Content-Type": type } });

test("however much happens, ten messages a second go out at most, each with the newest state", async () => {
  const leaving = new AbortController();
  const response = await ask("/api/news", { signal: leaving.signal });
  expect(response.headers.get("cache-control")).toContain("no-transform");
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
  const messages: string[] = [];
  const reading = (async () => {
    for (;;) {
      const { done, value } = await reader.read();
      if (done) return;
      messages.push(...value.split("\n\n").filter(Boolean));
    }
  })();
  const began = performance.now();
  while (performance.now() - began < 1_000) {
    emitter.emit("news");
    await new Promise((resolve) => setTimeout(resolve, 1));
  }
  await new Promise((resolve) => setTimeout(resolve, 250));
  expect(messages.length).toBeGreaterThan(3);
  expect(messages.length).toBeLessThanOrEqual(13);
  expect(messages.at(-1)).toBe(`data: ${state}`);
  await reader.cancel();
  await reading.catch(() => undefined);
  await new Promise((resolve) => setTimeout(resolve, 50));
  expect(emitter.listenerCount("news")).toBe(0);
});

test("a stream ends when whoever it goes to is no longer signed in, or may no longer have it", async () => {
  for (const left of [null, { ...ada, role: "owner" as const }, { ...ada, lacksFactor: true }]) {
    const response = await ask("/api/news");
    const reader = response.body!.getReader();
    expect((await reader.read()).done).toBe(false);
    actor = left;
    const began = performance.now();
    while (!(await reader.read()).done);
    expect(performance.now() - began).toBeLessThan(7_000);
    expect(emitter.listenerCount("news")).toBe(0);
    actor = ada;
  }
}, 30_000);

test("a stream ends at once when the application is to end", async () => {
  const reader = (await ask("/api/news")).body!.getReader();
  expect((await reader.read()).done).toBe(false);
  const began = performance.now();
  app.ending.abort();
  while (!(await reader.read()).done);
  expect(performance.now() - began).toBeLessThan(2_000);
  expect(emitter.listenerCount("news")).toBe(0);
  app.ending = new AbortController();
});

test("nothing that is answered is kept, and what came by https comes by nothing else", async () => {
  const answer = await post('{"n":1}', "application/json");
  expect([answer.headers.get("cache-control"), answer.headers.get("strict-transport-security")]).toEqual([
    "no-store",
    null,
  ]);
  app.settings.url = "https://latch.example";
  expect((await ask("/api/nothing")).headers.get("strict-transport-security")).toBe("max-age=63072000");
  app.settings.url = HERE;
});

test("what is sent is read no further than it may go: neither how much it is nor how deep", async () => {
  let sent = 0;
  const endless = (piece: string) =>
    new ReadableStream({
      pull(controller) {
        sent += piece.length;
        if (sent > 12_000_000) controller.close();
        else controller.enqueue(new TextEncoder().encode(piece));
      },
    });
  const stream = async (body: BodyInit) => {
    sent = 0;
    const headers = { "Content-Type": "application/json" };
    const answer = await ask("/api/told/7", { method: "POST", body, duplex: "half", headers } as RequestInit);
    return [answer.status, sent < 1_000_000];
  };
  expect(await stream(endless("x".repeat(10_000)))).toEqual([413, true]);
  expect(await stream(endless("[".repeat(1_000)))).toEqual([413, true]);
  expect((await post(`{"n":1,"more":${"[".repeat(10_000)}${"]".repeat(10_000)}}`, "application/json")).status).toBe(
    413,
  );
  // Signs within a text are no depth, nor is what stands side by side.
  const flat = JSON.stringify({ n: 1, text: '["\\'.repeat(500), list: Array.from({ length: 500 }, () => [{}]) });
  expect((await post(flat, "application/json")).status).toBe(200);
  expect((await post('{"n":1,"text":"\\ud800"}', "application/json")).status).toBe(400);
  expect((await post(Buffer.from('{"n":1,"text":"\xff"}', "latin1"), "application/json")).status).toBe(400);
});

test("a body is read as what its operation takes, and no larger than that takes", async () => {
  expect(await (await post('{"n":1}', "application/json; charset=utf-8")).json()).toEqual({ id: "7", n: 1 });
  const answers = [
    await post('{"n":1}', "text/plain"),
    await post("n=1", "application/x-www-form-urlencoded"),
    await post('{"n":', "application/json"),
    await post('{"n":"x"}', "application/json"),
    await post(JSON.stringify({ n: 1, more: "x".repeat(300_000) }), "application/json"),
  ];
  expect(answers.map(({ status }) => status)).toEqual([415, 415, 400, 400, 413]);
  expect((await answers[4].json()).error).toBe("The request is too large.");
  // Sent in pieces, its length is not known before.
  const pieces = new ReadableStream({
    start(controller) {
      for (let i = 0; i < 40; i++) controller.enqueue(new TextEncoder().encode("x".repeat(10_000)));
      controller.close();
    },
  });
  const streamed = { method: "POST", body: pieces, duplex: "half", headers: { "Content-Type": "application/json" } };
  expect((await ask("/api/told/7", streamed as RequestInit)).status).toBe(413);
});

test("a form is answered by a file, as of a past instant where one is given and none that lies ahead", async () => {
  const form = { method: "POST", body: new URLSearchParams({ name: "x" }) };
  const file = await ask("/api/file?at=2026-03-03T12:00:00Z", form);
  expect(file.headers.get("content-disposition")).toBe('attachment; filename="a.txt"');
  expect(await file.text()).toBe(`x ${Date.UTC(2026, 2, 3, 12) / 1000}`);
  const ahead = await ask("/api/file?at=2027-03-03T12:00:00Z", { ...form, body: new URLSearchParams({ name: "x" }) });
  expect([ahead.status, (await ahead.json()).error]).toEqual([
    400,
    expect.stringContaining("at: choose a time in the past."),
  ]);
});

test("what is at no operation's address is said not to be there", async () => {
  const answer = await ask("/api/nothing");
  expect([answer.status, await answer.json()]).toEqual([
    404,
    { error: "There is nothing at this address.", kind: "unknown" },
  ]);
});
