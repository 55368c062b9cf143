import { existsSync, mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout as wait } from "node:timers/promises";
import { AskedThread, type Step } from "./thread";

const folder = mkdtempSync(join(tmpdir(), "latch-thread-"));

function threadOf(name: string, script: string, onStep?: (step: Step) => void) {
  const file = join(folder, `${name}.mjs`);
  writeFileSync(file, `import { parentPort, workerData } from "node:worker_threads";\n${script}`);
  return new AskedThread(file, { mark: join(folder, name) }, onStep);
}

const FAILS_ONCE = `
  import { existsSync, writeFileSync } from "node:fs";
  if (!existsSync(workerData.mark)) {
    writeFileSync(workerData.mark, "");
    throw new Error("the disk is full");
  }
  parentPort.on("message", (asked) => parentPort.postMessage({ answer: asked.number + 1 }));`;

test("a thread that fails before it is asked is started anew by whoever asks", async () => {
  const thread = threadOf("early", FAILS_ONCE);
  thread.start();
  while (!existsSync(join(folder, "early"))) await wait(20);
  await wait(200);
  expect(await thread.ask({ number: 1 })).toBe(2);
  await thread.end();
});

test("whoever asks hears why a thread has failed, and the next one is answered", async () => {
  const thread = threadOf("asked", FAILS_ONCE);
  await expect(thread.ask({ number: 1 })).rejects.toThrow("the disk is full");
  expect(await thread.ask({ number: 5 })).toBe(6);
  await thread.end();
});

test("steps are told while it works; it can be stopped, and one that ends has not answered", async () => {
  const steps: number[] = [];
  const thread = threadOf(
    "steps",
    `parentPort.on("message", (asked) => {
      if (asked === "stop") return parentPort.postMessage({ stopped: true });
      if (asked.ends) process.exit(0);
      parentPort.postMessage({ step: { words: "Working", done: 1 } });
      if (!asked.waits) parentPort.postMessage({ answer: "done" });
    });`,
    ({ done }) => steps.push(done),
  );
  expect(await thread.ask({})).toBe("done");
  expect(steps).toEqual([1]);
  const waiting = thread.ask({ waits: true });
  thread.stop();
  expect(await waiting).toBeNull();
  await expect(thread.ask({ ends: true })).rejects.toThrow("before it had answered");
  const ended = thread.ask({ waits: true });
  await Promise.all([thread.end(), thread.end()]);
  expect(await ended).toBeNull();
});
