// Counts the lines of code and of tests, and the share of the tests.
import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { root } from "./stale.mjs";

const files = execFileSync("git", ["ls-files", "-co", "--exclude-standard"], { cwd: root, encoding: "utf8" })
  .split("\n")
  .filter((name) => /\.(ts|tsx|mjs|css)$/.test(name));
const isTest = (name) => /^tests\/|\.test\.tsx?$/.test(name);
const lines = (names) =>
  names.reduce((sum, name) => sum + readFileSync(join(root, name), "utf8").split("\n").length, 0);

const code = lines(files.filter((name) => !isTest(name)));
const tests = lines(files.filter(isTest));
console.log(`code ${code}, tests ${tests}: tests are ${((100 * tests) / (code + tests)).toFixed(1)} % of all lines`);
