// Everything that must hold: types, lint, unit tests with conformance, and the story in a browser.
import { execFileSync, spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { CHROMIUM } from "./chromium.mjs";
import { ensureBuilt } from "./build.mjs";
import { ensureInstalled, fail } from "./install.mjs";
import { root } from "./stale.mjs";

let passed = 0;
let failed = 0;
/** What each part took, in seconds. */
const took = new Map();

timed("Packages and Chromium", () => {
  ensureInstalled();
  ensureChromium();
});
timed("Build", ensureBuilt);
step("Route types", "node_modules/next/dist/bin/next", "typegen");
step("Types", "node_modules/typescript/bin/tsc", "--noEmit");
step("Lint", "node_modules/eslint/bin/eslint.js", ".", "--max-warnings", "0");
step("Format", "node_modules/prettier/bin/prettier.cjs", "--check", "--log-level", "warn", ".");
step("Unused code", "node_modules/knip/bin/knip.js");
jest("Unit tests and conformance", "--selectProjects", "unit", "ui");
jest("The story in a browser", "--selectProjects", "e2e");
for (const [name, seconds] of took) console.log(`${name.padEnd(30)} ${seconds.toFixed(0).padStart(4)} s`);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed > 0 ? 1 : 0);

function step(name, script, ...args) {
  console.log(`\n== ${name}`);
  const { status } = timed(name, () => run(script, args));
  if (status === 0) passed++;
  else failed++;
}

function jest(name, ...args) {
  console.log(`\n== ${name}`);
  const file = join(mkdtempSync(join(tmpdir(), "latch-jest-")), "result.json");
  // One for each core: of two, Jest by itself would leave one idle.
  const all = [...args, "--maxWorkers", "100%", "--json", "--outputFile", file];
  timed(name, () => run("node_modules/jest/bin/jest.js", all, "ignore"));
  if (!existsSync(file)) {
    failed++;
    return;
  }
  const result = JSON.parse(readFileSync(file, "utf8"));
  passed += result.numPassedTests;
  // A file that could not even be run has no failed test of its own.
  failed += result.numFailedTests + result.numRuntimeErrorTestSuites;
}

function timed(name, work) {
  const start = performance.now();
  const result = work();
  took.set(name, (performance.now() - start) / 1_000);
  return result;
}

function run(script, args, stdout = "inherit") {
  const env = { ...process.env, NEXT_TELEMETRY_DISABLED: "1" };
  return spawnSync(process.execPath, [join(root, script), ...args], {
    cwd: root,
    env,
    stdio: ["ignore", stdout, "inherit"],
  });
}

/** Debian's Chromium, by apt where we may; else a line that says what to install. */
function ensureChromium() {
  if (existsSync(CHROMIUM)) return;
  const isRootOnDebian = process.getuid?.() === 0 && existsSync("/usr/bin/apt-get");
  if (!isRootOnDebian)
    fail(`${CHROMIUM} is missing: install Debian's package chromium, or set CHROMIUM to where it is.`);
  console.log("Installing Chromium, once.");
  const env = { ...process.env, DEBIAN_FRONTEND: "noninteractive" };
  execFileSync("apt-get", ["update", "-qq"], { env, stdio: ["ignore", "ignore", "inherit"] });
  execFileSync("apt-get", ["install", "-y", "-qq", "--no-install-recommends", "chromium"], {
    env,
    stdio: ["ignore", "ignore", "inherit"],
  });
}
