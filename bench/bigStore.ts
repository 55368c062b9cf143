import { spawn } from "node:child_process";
import { createServer } from "node:http";
import type { EstateRecord } from "../core/estate/records";
import { KEY } from "./linkStore";
import { generateEstate } from "./generate";

const PORT = 4650;
const MADE = "2026-01-01T00:00:00Z";
/** The estate's own file has the first seed. */
const SEED = 2;

/**
 * A store that has a generated estate's records ready and does nothing but answer: so that a reading waits for itself,
 * and not for a stand-in. It runs in a process of its own, and has nothing yet until it is opened.
 */
export function serveBigStore(size: number) {
  const { described, entries } = entriesOf(generateEstate(size, SEED));
  const pageFrom = (after: number, limit: number) => {
    const page = entries.slice(after, after + limit);
    return `{"entries":[${page.join(",")}],"next":${after + page.length}}`;
  };
  let isOpen = false;
  const server = createServer(({ url, headers }, response) => {
    if (headers.authorization !== `Bearer ${KEY}`) return response.writeHead(401).end();
    const { pathname, searchParams } = new URL(url!, "http://here");
    const after = Number(searchParams.get("after"));
    response.setHeader("Content-Type", "application/json");
    if (pathname === "/api/capabilities") return response.end(described);
    if (pathname === "/api/records" && isOpen) return response.end(pageFrom(after, Number(searchParams.get("limit"))));
    if (pathname === "/open") isOpen = true;
    if (pathname === "/api/records" || pathname === "/api/events" || pathname === "/open")
      return response.end(`{"entries":[],"next":${after}}`);
    return response.writeHead(404).end();
  });
  server.listen(PORT, "127.0.0.1", () => console.log("ready"));
}

function entriesOf(records: Iterable<EstateRecord>) {
  const entries: string[] = [];
  let described = "";
  for (const record of records) {
    if (record.type === "store") described = JSON.stringify(record);
    if (record.type !== "store" && record.type !== "estate") entries.push(JSON.stringify({ at: MADE, record }));
  }
  return { described, entries };
}

/** Starts it, and waits until it answers. */
export async function startBigStore(size: number) {
  const child = spawn(process.execPath, [process.argv[1], "--store", String(size)], {
    stdio: ["ignore", "pipe", "inherit"],
  });
  await new Promise((resolve) => child.stdout!.once("data", resolve));
  const url = `http://127.0.0.1:${PORT}`;
  const open = () => fetch(`${url}/open`, { headers: { Authorization: `Bearer ${KEY}` } });
  return { url, open, stop: () => child.kill("SIGTERM") };
}
