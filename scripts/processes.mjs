import { spawn } from "node:child_process";
import { createServer } from "node:net";
import { setTimeout as wait } from "node:timers/promises";
import { root } from "./stale.mjs";

const children = new Map();
let ending = false;

/**
 * Starts a process and keeps it: one that dies is said and started again, but not one that can't
 * even begin. All of them end with this process.
 */
export function keep(name, args, env) {
  const startedAt = Date.now();
  const child = spawn(process.execPath, args, {
    cwd: root,
    env: { ...process.env, ...env },
    stdio: ["ignore", "inherit", "inherit", "ipc"],
  });
  children.set(name, child);
  child.on("exit", (code, signal) => {
    if (ending) return;
    console.error(`${name} ended (${signal ?? code}).`);
    if (Date.now() - startedAt < 2_000) return endAll(1);
    console.error(`${name} is started again.`);
    keep(name, args, env);
  });
  return child;
}

/** Ends every process that was started here, waits for them, and exits. */
export async function endAll(status) {
  if (ending) return;
  ending = true;
  const running = [...children.values()].filter((child) => child.exitCode === null && child.signalCode === null);
  const gone = running.map((child) => new Promise((resolve) => child.once("exit", resolve)));
  for (const child of running) child.kill("SIGTERM");
  await Promise.race([Promise.all(gone), wait(4_000)]);
  for (const child of running) if (child.exitCode === null && child.signalCode === null) child.kill("SIGKILL");
  process.exit(status);
}

export function endAllOnSignals() {
  for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"]) process.on(signal, () => void endAll(0));
}

/** Says which port is taken and what changes it, and exits. */
export async function checkPorts(ports) {
  for (const [setting, port] of Object.entries(ports)) {
    if (await isFree(port)) continue;
    console.error(`Port ${port} is taken. Set ${setting} to another one, for example ${setting}=${port + 100}.`);
    process.exit(1);
  }
}

function isFree(port) {
  return new Promise((resolve) => {
    const server = createServer();
    server.once("error", () => resolve(false));
    server.listen(port, "127.0.0.1", () => server.close(() => resolve(true)));
  });
}

/** Waits until an address answers at all. */
export async function answers(url, withinMs = 60_000) {
  const end = Date.now() + withinMs;
  while (Date.now() < end) {
    const response = await fetch(url, { redirect: "manual" }).catch(() => undefined);
    if (response) return;
    await wait(50);
  }
  console.error(`${url} did not answer within ${withinMs / 1000} seconds.`);
  await endAll(1);
}
