import { type ChildProcess, execFileSync, spawn } from "node:child_process";
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Agent, fetch } from "undici";
import { until } from "./until";

/** The application behind nginx, set up as docs/behind-a-proxy.md says. */
const root = join(__dirname, "../..");
const NGINX = process.env.NGINX ?? "/usr/sbin/nginx";
const [PORT, TLS_PORT, PLAIN_PORT] = [4560, 4561, 4562];
const url = `https://localhost:${TLS_PORT}`;
const folder = mkdtempSync(join(tmpdir(), "latch-proxy-"));
const person = { name: "Ada Umberlow", email: "ada@home.example", password: "four unlike words here" };
const children: ChildProcess[] = [];
let output = "";

jest.setTimeout(120_000);

/** Somebody at another address of this machine. */
const from = (localAddress: string) =>
  new Agent({ localAddress, autoSelectFamily: false, connect: { rejectUnauthorized: false, family: 4 } });
const [here, elsewhere] = [from("127.0.0.2"), from("127.0.0.3")];

function ask(
  path: string,
  { body, by = here, ...headers }: { body?: unknown; by?: Agent; [header: string]: unknown } = {},
) {
  return fetch(url + path, {
    method: body === undefined ? "GET" : "POST",
    redirect: "manual",
    dispatcher: by,
    headers: { Origin: url, ...(body !== undefined && { "Content-Type": "application/json" }), ...(headers as object) },
    ...(body !== undefined && { body: JSON.stringify(body) }),
  });
}

/** The servers of the page, with ports and files of this test. */
function configuration(): string {
  const page = readFileSync(join(root, "docs/behind-a-proxy.md"), "utf8");
  const servers = page
    .match(/```nginx\n([\s\S]*?)```/)![1]
    .replace("listen 443 ssl", `listen 127.0.0.1:${TLS_PORT} ssl`)
    .replace("listen 80", `listen 127.0.0.1:${PLAIN_PORT}`)
    .replaceAll("latch.home.example", "localhost")
    .replaceAll("/etc/ssl/", `${folder}/`)
    .replaceAll("/var/log/nginx/", `${folder}/`)
    .replace("127.0.0.1:4310", `127.0.0.1:${PORT}`);
  const places = ["client_body", "proxy", "fastcgi", "uwsgi", "scgi"].map(
    (name) => `${name}_temp_path ${folder}/${name};`,
  );
  return `pid ${folder}/nginx.pid; error_log ${folder}/error.log; events {} http { ${places.join(" ")} ${servers} }`;
}

function run(command: string, given: string[], env = {}) {
  const child = spawn(command, given, {
    cwd: root,
    env: { ...process.env, ...env },
    stdio: ["ignore", "pipe", "pipe"],
  });
  child.stdout!.on("data", (text) => (output += text));
  child.stderr!.on("data", (text) => (output += text));
  children.push(child);
}

beforeAll(async () => {
  const data = join(folder, "data");
  mkdirSync(data, { mode: 0o700 });
  const certificate = [
    "-keyout",
    join(folder, "latch.key"),
    "-out",
    join(folder, "latch.crt"),
    "-subj",
    "/CN=localhost",
  ];
  const quiet = { stdio: "ignore" } as const;
  execFileSync("openssl", ["req", "-x509", "-newkey", "rsa:2048", "-nodes", "-days", "2", ...certificate], quiet);
  writeFileSync(join(folder, "nginx.conf"), configuration());
  run(process.execPath, ["scripts/start.mjs"], {
    ...{ LATCH_DATA: data, LATCH_PORT: String(PORT), LATCH_URL: url, LATCH_PROXIES: "127.0.0.1" },
  });
  run(NGINX, ["-c", join(folder, "nginx.conf"), "-g", "daemon off;"]);
  await until(
    async () => (await ask("/sign-in").catch(() => undefined))?.status === 307,
    "answer through nginx",
    () => output,
  );
}, 120_000);

afterAll(async () => {
  for (const child of children) {
    const gone = new Promise((resolve) => child.once("exit", resolve));
    if (child.exitCode !== null) continue;
    child.kill("SIGINT");
    await gone;
  }
  rmSync(folder, { recursive: true, force: true });
});

test("whoever comes by plain http is sent to https, and stays there", async () => {
  const plain = await fetch(`http://127.0.0.1:${PLAIN_PORT}/desk`, { redirect: "manual" });
  expect([plain.status, plain.headers.get("location")]).toEqual([301, "https://127.0.0.1/desk"]);
  for (const path of ["/first-run", "/api/self"])
    expect((await ask(path)).headers.get("strict-transport-security")).toBe("max-age=63072000");
});

test("people sign in through it by cookies that go over TLS alone, and their address is told by the proxy", async () => {
  const code = output.match(/give this code: (\S+)/)![1];
  expect((await ask("/api/first-run", { body: { ...person, code } })).status).toBe(200);
  const { email, password } = person;
  const signedIn = await ask("/api/auth/sign-in/email", { body: { email, password } });
  const cookies = signedIn.headers.getSetCookie();
  expect(cookies.map((one) => one.split("=")[0])).toEqual(["__Secure-latch.session_token", "__Host-latch-browser"]);
  for (const cookie of cookies) expect(cookie).toMatch(/(?=.*; Secure)(?=.*; HttpOnly)(?=.*; SameSite=Strict)/i);
  const Cookie = cookies.map((one) => one.split(";")[0]).join("; ");
  const self = await ask("/api/self", { Cookie, "X-Forwarded-For": "203.0.113.7" });
  expect(((await self.json()) as { sessions: { address: string }[] }).sessions[0].address).toBe("127.0.0.2");
  // A stream comes through at once, and not when it is over.
  const stream = await ask("/api/reading/events", { Cookie });
  const reader = stream.body!.getReader();
  expect(new TextDecoder().decode((await reader.read()).value)).toContain("data: ");
  await reader.cancel();
});

test("whoever guesses shuts out their own network and nobody else's", async () => {
  const guess = (n: number, by: Agent) =>
    ask("/api/auth/sign-in/email", {
      body: { email: `nobody${n}@home.example`, password: "a wrong password" },
      by,
      "X-Forwarded-For": `198.51.100.${n}`,
    });
  const statuses: number[] = [];
  for (let n = 0; n < 65; n++) statuses.push((await guess(n, here)).status);
  expect(statuses.slice(-3)).toEqual([429, 429, 429]);
  expect((await guess(99, elsewhere)).status).toBe(401);
  expect(output).not.toContain("is not listed in LATCH_PROXIES: everyone behind it counts as one.");
});
