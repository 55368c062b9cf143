import { spawn } from "node:child_process";
import { join } from "node:path";
import { root } from "./stale.mjs";

/** What each step took, in seconds, in the order in which they ended. */
export const took = new Map();

/** Does something, and notes how long that took. */
export async function timed(name, work) {
  const start = performance.now();
  const result = await work();
  took.set(name, (performance.now() - start) / 1_000);
  return result;
}

/** Runs a script of ours or of a package's; what it says comes at once. @returns {Promise<number>} its exit code */
export function run(script, args, { output = "inherit", flags = [] } = {}) {
  const child = spawn(process.execPath, [...flags, join(root, script), ...args], {
    cwd: root,
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1" },
    stdio: ["ignore", output, "inherit"],
  });
  return new Promise((resolve) => child.on("close", (code) => resolve(code ?? 1)));
}

/**
 * Runs steps side by side: those of one lane one after the other, lanes at once. What each says comes in one piece when
 * it has ended.
 * @param {Record<string, string[]>[]} lanes a script with its arguments, by the step's name
 * @returns {Promise<string[]>} the names of those that failed
 */
export async function sideBySide(...lanes) {
  const failed = [];
  const go = async (steps) => {
    for (const [name, [script, ...args]] of Object.entries(steps)) {
      const { code, said } = await timed(name, () => heard(script, args));
      console.log(`\n== ${name}: ${code === 0 ? "holds" : "fails"}${said && `\n${said}`}`);
      if (code !== 0) failed.push(name);
    }
  };
  await Promise.all(lanes.map(go));
  return failed;
}

function heard(script, args) {
  const child = spawn(process.execPath, [join(root, script), ...args], {
    cwd: root,
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1" },
    stdio: ["ignore", "pipe", "pipe"],
  });
  let said = "";
  for (const stream of [child.stdout, child.stderr]) stream.setEncoding("utf8").on("data", (text) => (said += text));
  return new Promise((resolve) => child.on("close", (code) => resolve({ code: code ?? 1, said: said.trim() })));
}

/** Prints what each step took. */
export function tellTimes() {
  console.log("");
  for (const [name, seconds] of took) console.log(`${name.padEnd(30)} ${seconds.toFixed(0).padStart(4)} s`);
}
