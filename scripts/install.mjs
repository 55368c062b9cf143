import { execFileSync, spawnSync } from "node:child_process";
import { existsSync, readFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { root } from "./stale.mjs";

/** Installs what is missing: the packages, and the one native module, compiled here from its source. */
export function ensureInstalled() {
  ensurePackages();
  ensureDatabase();
}

export function ensurePackages() {
  const [major, minor] = process.versions.node.split(".").map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    fail(`Node 20.19 or newer is needed; this is ${process.versions.node}.`);
  if (!areInstalled()) {
    console.log("Installing packages, once.");
    npm(["install", "--no-save", "--no-audit", "--no-fund"]);
  }
}

function ensureDatabase() {
  if (!databaseLoads()) {
    console.log("Compiling the database module, once; this takes a minute or two.");
    npm(["rebuild", "better-sqlite3", "--ignore-scripts=false"]);
    if (!databaseLoads()) fail("better-sqlite3 could not be compiled; it needs python3, make and g++.");
  }
}

/** Whether all is there that the lock file names; only what is for other machines may be missing. */
function areInstalled() {
  const installed = packagesIn("node_modules/.package-lock.json");
  const isThere = ([path, { version, optional }]) =>
    path === "" || (path in installed ? installed[path].version === version : optional === true);
  return Object.entries(packagesIn("package-lock.json")).every(isThere);
}

function packagesIn(file) {
  const path = join(root, file);
  return existsSync(path) ? JSON.parse(readFileSync(path, "utf8")).packages : {};
}

function databaseLoads() {
  const code = 'new (require("better-sqlite3"))(":memory:")';
  return spawnSync(process.execPath, ["-e", code], { cwd: root, stdio: "ignore" }).status === 0;
}

function npm(args) {
  // Node's own headers, where they came with Node: nothing is downloaded to compile against.
  const headers = dirname(dirname(process.execPath));
  const nodedir = existsSync(join(headers, "include/node/node.h")) ? { npm_config_nodedir: headers } : {};
  const env = { ...process.env, npm_config_build_from_source: "true", ...nodedir };
  try {
    execFileSync("npm", args, { cwd: root, env, stdio: ["ignore", "ignore", "inherit"] });
  } catch {
    fail(`npm ${args[0]} failed; its messages stand above.`);
  }
}

export function fail(message) {
  console.error(message);
  process.exit(1);
}
