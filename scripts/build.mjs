import { execFileSync } from "node:child_process";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { ensureInstalled } from "./install.mjs";
import { isStale, root } from "./stale.mjs";

const SHARED = ["contract", "core", "server", "package-lock.json", "scripts/bundle.mjs"];
const BUNDLES = {
  latch: ["dist/latch/latch.mjs", "bin"],
  engine: ["dist/engine.mjs"],
  readings: ["dist/readings.mjs"],
  imports: ["dist/imports.mjs"],
  lists: ["dist/lists.mjs"],
  packs: ["dist/packs/packThread.mjs"],
  verify: ["dist/verify.mjs"],
  page: ["dist/verify.html", "verify"],
  standins: ["dist/standins/main.mjs", "standins"],
  demo: ["dist/demo.mjs", "demo", "standins"],
  fill: ["dist/fill.mjs", "demo"],
};
const PAGES = [
  "app",
  "ui",
  "public",
  "instrumentation.ts",
  "proxy.ts",
  "next.config.ts",
  "postcss.config.mjs",
  "tsconfig.json",
];

/** Builds what is older than its sources: the bundles, then the pages. */
export function ensureBuilt() {
  const stale = Object.entries(BUNDLES).filter(([, [made, ...sources]]) =>
    isStale(join(root, made), [...SHARED, ...sources]),
  );
  if (stale.length > 0) run("scripts/bundle.mjs", ...stale.map(([name]) => name));
  if (isStale(join(root, ".next/BUILD_ID"), [...SHARED, ...PAGES])) {
    console.log("Building the application.");
    run("node_modules/next/dist/bin/next", "build");
  }
}

function run(script, ...args) {
  const env = { ...process.env, NEXT_TELEMETRY_DISABLED: "1", LATCH_NOW: "" };
  delete env.LATCH_NOW;
  try {
    execFileSync(process.execPath, [join(root, script), ...args], {
      cwd: root,
      env,
      stdio: ["ignore", "pipe", "inherit"],
    });
  } catch (error) {
    console.error(error.stdout?.toString());
    console.error(`${script} ${args.join(" ")} failed; its messages stand above.`);
    process.exit(1);
  }
}

if (import.meta.url === pathToFileURL(process.argv[1]).href) {
  ensureInstalled();
  ensureBuilt();
}
