// Compiles what runs outside Next: the command line, the engine's worker, the stand-ins, the demo's generator.
import { build } from "esbuild";
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { root } from "./stale.mjs";

const BUNDLES = {
  // In pieces, so that a question about a file does not load the server, a store no mail, and a pack what draws its report
  // only when the rest is written.
  latch: { entry: "bin/latch.ts", out: "dist/latch/latch.mjs", splitting: true },
  engine: { entry: "server/engineThread.ts", out: "dist/engine.mjs" },
  lists: { entry: "server/listThread.ts", out: "dist/lists.mjs" },
  readings: { entry: "server/readingThread.ts", out: "dist/readings.mjs" },
  packs: { entry: "server/packThread.ts", out: "dist/packs/packThread.mjs", splitting: true },
  imports: { entry: "server/importThread.ts", out: "dist/imports.mjs" },
  verify: { entry: "server/verifyThread.ts", out: "dist/verify.mjs" },
  standins: { entry: "standins/main.ts", out: "dist/standins/main.mjs", splitting: true },
  demo: { entry: "demo/main.ts", out: "dist/demo.mjs" },
  fill: { entry: "demo/fill.ts", out: "dist/fill.mjs" },
  bench: { entry: "bench/main.ts", out: "dist/bench.mjs" },
};

const wanted = process.argv.slice(2);
if (wanted.length === 0 || wanted.includes("page")) await makePage();
for (const [name, { entry, out, splitting }] of Object.entries(BUNDLES)) {
  if (wanted.length > 0 && !wanted.includes(name)) continue;
  const { metafile } = await build({
    absWorkingDir: root,
    metafile: true,
    entryPoints: [entry],
    ...(splitting ? { outdir: dirname(out), splitting, outExtension: { ".js": ".mjs" } } : { outfile: out }),
    bundle: true,
    platform: "node",
    target: "node20",
    format: "esm",
    // Native modules stay outside; bundled CommonJS packages want a require of their own.
    external: ["better-sqlite3", "@napi-rs/canvas", "@duckdb/node-api", "puppeteer-core", "oidc-provider"],
    banner: {
      js: 'import { createRequire as __createRequire } from "node:module"; const require = __createRequire(import.meta.url);',
    },
    logLevel: "warning",
  });
  if (splitting) removeOthers(dirname(out), Object.keys(metafile.outputs));
}

/** The page that goes out with packs: one file, its program in it. */
async function makePage() {
  const { outputFiles } = await build({
    absWorkingDir: root,
    entryPoints: ["verify/page.ts"],
    ...{ bundle: true, minify: true, write: false, platform: "browser", target: "es2022", format: "iife" },
    charset: "utf8",
    logLevel: "warning",
  });
  const script = outputFiles[0].text.replaceAll("</script", "<\\/script");
  const page = readFileSync(join(root, "verify/page.html"), "utf8");
  mkdirSync(join(root, "dist"), { recursive: true });
  writeFileSync(
    join(root, "dist/verify.html"),
    page.replace("/* SCRIPT */", () => script),
  );
}

/** Pieces are named by what is in them: those of earlier builds would stay for ever. */
function removeOthers(folder, made) {
  for (const name of readdirSync(join(root, folder)))
    if (!made.includes(`${folder}/${name}`)) rmSync(join(root, folder, name));
}
