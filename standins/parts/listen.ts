import { serve } from "@hono/node-server";
import type { Env, Hono } from "hono";

/** Serves on loopback until the process is told to end. A taken port is said in one line. */
export function listen<E extends Env>(name: string, app: Hono<E>, port: number) {
  const server = serve({ fetch: app.fetch, hostname: "127.0.0.1", port }, () =>
    console.log(`${name} listens on ${port}`),
  );
  server.on("error", (error: NodeJS.ErrnoException) => {
    console.error(error.code === "EADDRINUSE" ? `${name}: port ${port} is taken` : `${name}: ${error.message}`);
    process.exit(1);
  });
}

/** Ends this process with the one that started it, and when it is told to. */
export function endWithParent() {
  for (const signal of ["SIGINT", "SIGTERM"] as const) process.on(signal, () => process.exit(0));
  process.on("disconnect", () => process.exit(0));
}
