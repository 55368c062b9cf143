import { readdirSync, readFileSync } from "node:fs";
import type { ChildProcess } from "node:child_process";

/** In megabytes: what the processes that a command has started hold, and the most that they have held. */
export function memoryOf({ pid }: ChildProcess): { now: number; most: number } {
  const sums = { now: 0, most: 0 };
  for (const one of [pid!, ...childrenOf(pid!)]) {
    const status = readFileSync(`/proc/${one}/status`, "utf8");
    sums.now += Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1_000;
    sums.most += Number(/VmHWM:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1_000;
  }
  return sums;
}

export function childrenOf(pid: number): number[] {
  const parents = readdirSync("/proc")
    .filter((name) => /^\d+$/.test(name))
    .map((name) => ({ pid: Number(name), parent: parentOf(name) }));
  const own = parents.filter(({ parent }) => parent === pid).map((one) => one.pid);
  return [...own, ...own.flatMap(childrenOf)];
}

function parentOf(pid: string): number {
  try {
    return Number(/PPid:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))?.[1]);
  } catch {
    // It has just ended.
    return 0;
  }
}
