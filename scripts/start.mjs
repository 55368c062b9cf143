import { ensureBuilt } from "./build.mjs";
import { ensureInstalled } from "./install.mjs";
import { checkPorts, endAllOnSignals, keep } from "./processes.mjs";

ensureInstalled();
ensureBuilt();
const port = Number(process.env.LATCH_PORT ?? 4310);
await checkPorts({ LATCH_PORT: port });
endAllOnSignals();
keep("The application", ["node_modules/next/dist/bin/next", "start", "-H", "127.0.0.1", "-p", String(port)], {
  NODE_ENV: "production",
  NEXT_TELEMETRY_DISABLED: "1",
});
console.log(`Tight Latch starts at ${process.env.LATCH_URL ?? `http://localhost:${port}`}. Ctrl+C ends it.`);
