// What can be known of a change within a minute: types, lint, format, and the unit tests that stand beside what changed.
// `npm test` knows the rest.
import { execFileSync } from "node:child_process";
import { ensureInstalled } from "./install.mjs";
import { root } from "./stale.mjs";
import { run, sideBySide, tellTimes, timed } from "./steps.mjs";

ensureInstalled();
const changed = execFileSync("git", ["status", "--porcelain", "--no-renames", "--untracked-files=all"], {
  cwd: root,
  encoding: "utf8",
})
  .split("\n")
  .filter((line) => line !== "" && !line.slice(0, 2).includes("D"))
  .map((line) => line.slice(3));
const scripts = changed.filter((file) => /\.(tsx?|mjs)$/.test(file));
const lint = ["node_modules/eslint/bin/eslint.js", "--no-warn-ignored", "--max-warnings", "0", ...scripts];
const format = ["--check", "--ignore-unknown", "--log-level", "warn", ...changed];
const failed = await sideBySide(
  { Types: ["node_modules/typescript-native/bin/tsc", "--noEmit"] },
  {
    ...(scripts.length > 0 && { Lint: lint }),
    ...(changed.length > 0 && { Format: ["node_modules/prettier/bin/prettier.cjs", ...format] }),
  },
);
const jest = ["--selectProjects", "unit", "ui", "--onlyChanged", "--passWithNoTests", "--maxWorkers", "100%"];
const beside = ["--testPathIgnorePatterns", "/node_modules/", "<rootDir>/(tests|bench)/"];
const code = await timed("Unit tests", () => run("node_modules/jest/bin/jest.js", [...jest, ...beside]));
tellTimes();
process.exit(failed.length > 0 || code !== 0 ? 1 : 0);
