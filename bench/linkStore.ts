import { type ChildProcess, spawn } from "node:child_process";
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { EstateRecord } from "../core/estate/records";
import { STORES } from "../standins/store/stores";

const PORT = 4640;
export const KEY = "the key of the stores of the benchmark";

/** A store with one space and so many open links on it, as the lines of a file from which a stand-in starts. */
export function writeLinks(folder: string, count: number): string {
  const path = join(folder, "seed.jsonl");
  writeFileSync(path, [...records(count)].map((record) => JSON.stringify(record) + "\n").join(""));
  return path;
}

function* records(count: number): Generator<EstateRecord> {
  const made = "2026-01-01T00:00:00Z";
  yield STORES.stacks;
  yield { type: "person", id: "ida", email: "ida@home.example", name: "Ida", status: "active" };
  yield {
    type: "item",
    id: "space",
    storeId: "stacks",
    parentId: null,
    kind: "space",
    name: "Space",
    ownerId: "ida",
    label: null,
    inherits: true,
    state: "live",
    createdAt: made,
    modifiedAt: made,
  };
  for (let i = 0; i < count; i++)
    yield {
      type: "link",
      id: `l${i}`,
      itemId: "space",
      reach: "open",
      role: "view",
      password: false,
      download: true,
      opensAt: null,
      expiresAt: null,
      maxUses: null,
      uses: 0,
      listed: false,
      recipients: [],
      createdBy: "ida",
      createdAt: made,
      lastUsedAt: null,
      address: `address-of-${i}`,
    };
}

/** A stand-in in a process of its own, that bears as many requests as come. */
export function startStore(folder: string, seed: string, number: number): { child: ChildProcess; url: string } {
  const port = PORT + number;
  const data = join(folder, `store${number}`);
  mkdirSync(data);
  const env = { ...process.env, STANDIN_PORT: String(port), STANDIN_DATA: data, STANDIN_SEED: seed, STANDIN_KEY: KEY };
  const child = spawn(process.execPath, ["dist/standins/main.mjs", "stacks"], {
    env,
    stdio: ["pipe", "ignore", "inherit"],
  });
  return { child, url: `http://127.0.0.1:${port}` };
}

/** Waits until a stand-in answers, and has it bear whatever comes. */
export async function answers(url: string) {
  const headers = { Authorization: `Bearer ${KEY}`, "Content-Type": "application/json" };
  const body = JSON.stringify({ perSecond: 1_000_000 });
  for (;;) {
    const response = await fetch(`${url}/api/control`, { method: "POST", headers, body }).catch(() => undefined);
    if (response?.ok) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}
