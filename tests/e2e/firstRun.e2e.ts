import { type ChildProcess, spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { until } from "./until";

/** `npm start` without the demo: the first administrator is made against a code in the terminal. */
const root = join(__dirname, "../..");
const data = mkdtempSync(join(tmpdir(), "latch-first-"));
const PORT = 4550;
const url = `http://localhost:${PORT}`;
let child: ChildProcess;
let output = "";
jest.setTimeout(300_000);

function start(env: Record<string, string> = {}) {
  output = "";
  child = spawn(process.execPath, ["scripts/start.mjs"], {
    cwd: root,
    env: { ...process.env, LATCH_DATA: data, LATCH_PORT: String(PORT), ...env },
    stdio: ["ignore", "pipe", "pipe"],
  });
  child.stdout!.on("data", (text) => (output += text));
  child.stderr!.on("data", (text) => (output += text));
  return new Promise((resolve) => child.once("exit", resolve));
}

afterAll(async () => {
  if (child.exitCode === null) {
    const gone = new Promise((resolve) => child.once("exit", resolve));
    child.kill("SIGINT");
    await gone;
  }
  rmSync(data, { recursive: true, force: true });
});

const post = (path: string, body: unknown) =>
  fetch(url + path, {
    method: "POST",
    headers: { "Content-Type": "application/json", Origin: url },
    body: JSON.stringify(body),
  });

test("a taken port is said in one line with the setting that changes it", async () => {
  const taken = createServer().listen(PORT, "127.0.0.1");
  await new Promise((resolve) => taken.once("listening", resolve));
  const status = await start();
  await new Promise((resolve) => taken.close(resolve));
  expect(status).toBe(1);
  expect(output.trim().split("\n").at(-1)).toBe(
    "Port 4550 is taken. Set LATCH_PORT to another one, for example LATCH_PORT=4650.",
  );
});

test("whoever reads the code makes the first administrator, once", async () => {
  void start();
  const person = { name: "Ada Umberlow", email: "ada@wrenmoor.example", password: "four unlike words here" };
  await until(
    () => /give this code: \S+/.test(output),
    "print a code",
    () => output,
  );
  await until(
    async () => (await fetch(`${url}/sign-in`).catch(() => undefined))?.ok ?? false,
    "answer",
    () => output,
  );
  const code = output.match(/give this code: (\S+)/)![1];
  expect((await fetch(`${url}/sign-in`)).url).toBe(`${url}/first-run`);

  const wrong = await post("/api/first-run", { ...person, code: "0000-0000-0000" });
  expect([wrong.status, (await wrong.json()).error]).toEqual([403, expect.stringContaining("That code is wrong.")]);
  const weak = await post("/api/first-run", { ...person, code, password: "short" });
  expect([weak.status, (await weak.json()).error]).toEqual([400, expect.stringContaining("at least 15 characters")]);
  expect((await post("/api/first-run", { ...person, code })).status).toBe(200);
  expect((await post("/api/first-run", { ...person, code, email: "eve@wrenmoor.example" })).status).toBe(403);

  const { email, password } = person;
  const signedIn = await post("/api/auth/sign-in/email", { email, password });
  expect(signedIn.status).toBe(200);
  expect((await post("/api/auth/sign-up/email", { email: "eve@wrenmoor.example", password, name: "Eve" })).status).toBe(
    404,
  );
  // Who is at the other end of a connection is known, whatever they say of themselves.
  const cookie = signedIn.headers.getSetCookie().map((one) => one.split(";")[0]);
  const self = await fetch(`${url}/api/self`, {
    headers: { Cookie: cookie.join("; "), "X-Forwarded-For": "203.0.113.7" },
  });
  expect([self.headers.get("cache-control"), (await self.json()).sessions[0].address]).toEqual([
    "no-store",
    "127.0.0.1",
  ]);
});

test("ten wrong passwords for one address, and then a rest, wherever they come from", async () => {
  const statuses: number[] = [];
  for (let i = 0; i < 12; i++) {
    const response = await fetch(`${url}/api/auth/sign-in/email`, {
      method: "POST",
      headers: { "Content-Type": "application/json", Origin: url, "X-Forwarded-For": `10.0.0.${i}` },
      body: JSON.stringify({ email: "ada@wrenmoor.example", password: `wrong password ${i}` }),
    });
    statuses.push(response.status);
  }
  expect(statuses.slice(-2)).toEqual([429, 429]);
  expect(
    (await post("/api/auth/sign-in/email", { email: "ada@wrenmoor.example", password: "four unlike words here" }))
      .status,
  ).toBe(429);
});
