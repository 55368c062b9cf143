// Starts the whole demo: the application, three stand-in stores and the mail catcher, over made-up data.
import { execFileSync } from "node:child_process";
import { randomBytes } from "node:crypto";
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join, resolve } from "node:path";
import { ensureBuilt } from "./build.mjs";
import { ensureInstalled, fail } from "./install.mjs";
import { answers, checkPorts, endAllOnSignals, keep } from "./processes.mjs";
import { root } from "./stale.mjs";

const STORES = { stacks: "Stacks", alcoves: "Alcoves", dock: "Loading Dock" };
const PASSWORD = "tern-gravel-lantern-oboe";
const PEOPLE = [
  { email: "imre.varga@wrenmoor.example", name: "Imre Varga", role: "administrator" },
  { email: "thessaly.orrin@wrenmoor.example", name: "Thessaly Orrin", role: "administrator" },
  { email: "auditor@wrenmoor.example", name: "Odile Marrowby", role: "auditor" },
  { email: "sanne.eastermark@wrenmoor.example", name: "Sanne Eastermark", role: "owner" },
];

const setting = (name, standard) => Number(process.env[name] ?? standard);
const ports = {
  LATCH_PORT: setting("LATCH_PORT", 4310),
  LATCH_STACKS_PORT: setting("LATCH_STACKS_PORT", 4311),
  LATCH_ALCOVES_PORT: setting("LATCH_ALCOVES_PORT", 4312),
  LATCH_DOCK_PORT: setting("LATCH_DOCK_PORT", 4313),
  LATCH_SMTP_PORT: setting("LATCH_SMTP_PORT", 4314),
  LATCH_MAIL_PORT: setting("LATCH_MAIL_PORT", 4315),
  LATCH_IDENTITY_PORT: setting("LATCH_IDENTITY_PORT", 4316),
};
const data = resolve(root, process.env.LATCH_DATA ?? ".latch/demo");
const marker = join(data, "demo.json");
/** As another machine's disk would be. */
const witnesses = `${data}-witnesses`;
const env = {
  LATCH_DATA: data,
  LATCH_WITNESSES: witnesses,
  LATCH_PORT: String(ports.LATCH_PORT),
  LATCH_SMTP_PORT: String(ports.LATCH_SMTP_PORT),
  NODE_ENV: "production",
  NEXT_TELEMETRY_DISABLED: "1",
};
// A name, since there are no passkeys for what has none.
const address = `http://localhost:${ports.LATCH_PORT}`;
const hasSingleSignOn = process.argv.includes("--sso");
const singleSignOn = {
  LATCH_SSO_ISSUER: `http://127.0.0.1:${ports.LATCH_IDENTITY_PORT}`,
  LATCH_SSO_CLIENT: "tight-latch",
  LATCH_SSO_SECRET: randomBytes(24).toString("base64url"),
  LATCH_SSO_DOMAINS: "wrenmoor.example",
  LATCH_SSO_NAME: "Wrenmoor sign-on",
};
const storeUrl = (name) => `http://127.0.0.1:${ports[`LATCH_${name.toUpperCase()}_PORT`]}`;

ensureInstalled();
ensureBuilt();
await checkPorts(ports);
if (process.argv.includes("--fresh")) rmSync(data, { recursive: true, force: true });
mkdirSync(witnesses, { recursive: true, mode: 0o700 });
const isNew = !existsSync(marker);
const keys = isNew ? makeData() : keptKeys();

endAllOnSignals();
keep("Mail catcher", ["dist/standins/main.mjs", "mail"], { ...env, STANDIN_PORT: String(ports.LATCH_MAIL_PORT) });
for (const [name, words] of Object.entries(STORES))
  keep(words, ["dist/standins/main.mjs", name], {
    ...env,
    STANDIN_PORT: new URL(storeUrl(name)).port,
    STANDIN_DATA: join(data, "standins"),
    STANDIN_SEED: join(data, "seed", `${name}.jsonl`),
    STANDIN_KEY: keys[name],
  });
for (const name of Object.keys(STORES)) await answers(`${storeUrl(name)}/api/capabilities`);
if (isNew) fillDatabase();
if (hasSingleSignOn) await startIdentityProvider();
keep("The application", ["node_modules/next/dist/bin/next", "start", "-H", "127.0.0.1", "-p", env.LATCH_PORT], {
  ...env,
  ...(hasSingleSignOn && singleSignOn),
});
await answers(`${address}/sign-in`);
sayWhatToDo();

/** Everybody of the demo, and two strangers: somebody without an account, and somebody of another house. */
async function startIdentityProvider() {
  const people = [
    ...PEOPLE,
    { email: "nobody@wrenmoor.example", name: "Nobody here" },
    { email: "cato.venn@quay.example", name: "Cato Venn" },
  ];
  const back = `${address}/api/auth/callback/house`;
  const client = { id: singleSignOn.LATCH_SSO_CLIENT, secret: singleSignOn.LATCH_SSO_SECRET, back };
  keep("Identity provider", ["dist/standins/main.mjs", "identity"], {
    ...env,
    STANDIN_PORT: String(ports.LATCH_IDENTITY_PORT),
    STANDIN_IDENTITY: JSON.stringify({ client, people }),
  });
  await answers(`${singleSignOn.LATCH_SSO_ISSUER}/.well-known/openid-configuration`);
}

/** A half-made demo from before is made anew: only the marker says that it is whole. */
function makeData() {
  for (const folder of [data, witnesses]) {
    rmSync(folder, { recursive: true, force: true });
    mkdirSync(folder, { recursive: true, mode: 0o700 });
  }
  console.log("Making the demo's data.");
  execFileSync(process.execPath, ["dist/demo.mjs", join(data, "seed")], { cwd: root, env: { ...process.env, ...env } });
  return Object.fromEntries(Object.keys(STORES).map((name) => [name, randomBytes(24).toString("base64url")]));
}

function keptKeys() {
  const kept = JSON.parse(readFileSync(marker, "utf8"));
  if (JSON.stringify(kept.ports) !== JSON.stringify(ports))
    fail("The demo was made for other ports. Start it with those, or anew: npm run demo -- --fresh");
  return kept.keys;
}

/** In one process: connects and reads the stores, and makes everybody who signs in. */
function fillDatabase() {
  console.log("Reading the stores for the first time.");
  const stores = Object.entries(STORES).map(([id, name]) => ({ id, name, url: storeUrl(id), key: keys[id] }));
  const given = {
    stores,
    house: join(data, "seed", "house.jsonl"),
    lists: { before: join(data, "seed", "people-before.csv"), now: join(data, "seed", "people.csv") },
    mail: { port: ports.LATCH_SMTP_PORT, from: "latch@wrenmoor.example" },
    people: PEOPLE.map((person) => ({ ...person, password: PASSWORD })),
    zone: "Europe/Lisbon",
  };
  execFileSync(process.execPath, ["dist/fill.mjs"], {
    cwd: root,
    env: { ...process.env, ...env },
    input: JSON.stringify(given),
    stdio: ["pipe", "ignore", "inherit"],
  });
  writeFileSync(marker, JSON.stringify({ ports, keys }), { mode: 0o600 });
}

function sayWhatToDo() {
  console.log(`\nTight Latch is at ${address}\n`);
  for (const { email, role } of PEOPLE) console.log(`  ${role.padEnd(14)} ${email.padEnd(34)} ${PASSWORD}`);
  console.log(
    `\nThe password of every keyed link in the stores is the same. Mail lands at http://127.0.0.1:${ports.LATCH_MAIL_PORT}`,
  );
  console.log("Ctrl+C ends everything. --fresh starts over.");
}
