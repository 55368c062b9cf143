// Everything that must hold: types, lint, unit tests with conformance, and the story in a browser.
import { execFile } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync, statfsSync } from "node:fs";
import { freemem, tmpdir } from "node:os";
import { join } from "node:path";
import { promisify } from "node:util";
import { CHROMIUM } from "./chromium.mjs";
import { ensurePackages, fail } from "./install.mjs";
import { run, sideBySide, tellTimes, timed } from "./steps.mjs";

/** Where each program is that tests start, and the package that it comes in. */
const PROGRAMS = {
  [CHROMIUM]: "chromium-headless-shell",
  [process.env.NGINX ?? "/usr/sbin/nginx"]: "nginx-light",
  "/usr/bin/openssl": "openssl",
  "/usr/bin/pdftotext": "poppler-utils",
  "/usr/bin/qpdf": "qpdf",
};
/** Tests leave less than this behind them. */
const ROOM = 4 * 2 ** 30;
/** Tests make much that is soon done with: with room for it there is less to clear away. Jest's workers have it, too. */
const ROOM_FOR_NEW = ["--max-semi-space-size=64"];
let passed = 0;
let failed = 0;

// Tests make many hundreds of databases, and each waits for the disk again and again.
const folder = mkdtempSync(join(hasRoom("/dev/shm") ? "/dev/shm" : tmpdir(), "latch-tests-"));
process.env.TMPDIR = folder;
process.on("exit", () => rmSync(folder, { recursive: true, force: true }));

await timed("Packages and programs", async () => {
  const programs = ensurePrograms();
  ensurePackages();
  await programs;
});
const build = { Build: ["scripts/build.mjs"], Types: ["node_modules/typescript-native/bin/tsc", "--noEmit"] };
const look = {
  Lint: ["node_modules/eslint/bin/eslint.js", ".", "--max-warnings", "0"],
  Format: ["node_modules/prettier/bin/prettier.cjs", "--check", "--log-level", "warn", "."],
  "Unused code": ["node_modules/knip/bin/knip.js"],
};
const broken = await sideBySide(build, look);
if (broken.includes("Build")) fail("Nothing can be tried that is not built.");
failed += broken.length;
passed += Object.keys({ ...build, ...look }).length - broken.length;
// One for each core: of two, Jest by itself would leave one idle.
await jest("Unit tests and conformance", "--selectProjects", "unit", "ui", "--maxWorkers", "100%");
// One for each core: with more of them pages wait for each other.
await jest("The story in a browser", "--selectProjects", "e2e", "--maxWorkers", "100%");
tellTimes();
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed > 0 ? 1 : 0);

async function jest(name, ...args) {
  console.log(`\n== ${name}`);
  const file = join(mkdtempSync(join(tmpdir(), "latch-jest-")), "result.json");
  const all = [...args, "--json", "--outputFile", file];
  await timed(name, () => run("node_modules/jest/bin/jest.js", all, { output: "ignore", flags: ROOM_FOR_NEW }));
  if (!existsSync(file)) {
    failed++;
    return;
  }
  const result = JSON.parse(readFileSync(file, "utf8"));
  passed += result.numPassedTests;
  // A file that could not even be run has no failed test of its own.
  failed += result.numFailedTests + result.numRuntimeErrorTestSuites;
}

/** Whether there is a folder in memory, and memory to spare. */
function hasRoom(path) {
  if (!existsSync(path)) return false;
  const { bavail, bsize } = statfsSync(path);
  return bavail * bsize > ROOM && freemem() > 2 * ROOM;
}

/** Programs of Debian that tests start, by apt where we may; else a line that says what to install. */
async function ensurePrograms() {
  const missing = Object.entries(PROGRAMS).filter(([path]) => !existsSync(path));
  if (missing.length === 0) return;
  const packages = missing.map(([, name]) => name);
  const isRootOnDebian = process.getuid?.() === 0 && existsSync("/usr/bin/apt-get");
  if (!isRootOnDebian)
    fail(
      `${missing.map(([path]) => path).join(", ")}: missing. Install Debian's ${packages.join(" and ")}, or set CHROMIUM and NGINX to where they are.`,
    );
  console.log(`Installing ${packages.join(" and ")}, once.`);
  const env = { ...process.env, DEBIAN_FRONTEND: "noninteractive" };
  const apt = promisify(execFile);
  try {
    await apt("apt-get", ["update", "-qq"], { env });
    await apt("apt-get", ["install", "-y", "-qq", "--no-install-recommends", ...packages], { env });
  } catch (error) {
    fail(`apt-get could not install ${packages.join(" and ")}:\n${error.stderr}`);
  }
}
