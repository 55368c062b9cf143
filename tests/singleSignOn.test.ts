import { type ChildProcess, spawn } from "node:child_process";
import { join } from "node:path";
import type { SingleSignOn } from "@/server/platform/settings";
import { addPerson } from "@/server/people/people";
import type { Known } from "@/standins/identity/main";
import type { App } from "@/server/app";
import { appIn } from "./app";
import { Visitor } from "./visitor";

jest.setTimeout(60_000);

const PORT = 4590;
const PEOPLE: Known[] = [
  { email: "ada@home.example", name: "Ada", role: "administrator" },
  { email: "bea@home.example", name: "Bea", role: "auditor", isVerified: false },
  { email: "nobody@home.example", name: "Nobody", role: "auditor" },
  { email: "cato@quay.example", name: "Cato", role: "administrator" },
];
const given: SingleSignOn = {
  ...{ name: "sign-on", issuer: `http://127.0.0.1:${PORT}`, client: "latch", secret: "a secret of the client" },
  ...{ domains: ["home.example"], roleClaim: undefined },
};
let provider: ChildProcess;
let app: App;

beforeAll(async () => {
  const back = "http://127.0.0.1:4310/api/auth/callback/house";
  const client = { id: given.client, secret: given.secret, back };
  // It is a module that Jest can't load, and runs as in the demo.
  const env = {
    ...process.env,
    STANDIN_PORT: String(PORT),
    STANDIN_IDENTITY: JSON.stringify({ client, people: PEOPLE }),
  };
  const stdio = ["ignore", "pipe", "inherit"] as ["ignore", "pipe", "inherit"];
  provider = spawn(process.execPath, [join(__dirname, "../dist/standins/main.mjs"), "identity"], { env, stdio });
  await new Promise<void>((resolve) =>
    provider.stdout!.on("data", (said) => String(said).includes("listens on") && resolve()),
  );
});
afterAll(() => provider.kill());
afterEach(() => app.close());

async function withProvider(more: Partial<SingleSignOn> = {}) {
  app = await appIn();
  Object.assign(app.settings, { singleSignOn: { ...given, ...more } });
  for (const email of ["ada@home.example", "bea@home.example", "cato@quay.example"])
    await addPerson(app, { name: "N", email, password: "four unlike words here" }, "auditor", "tests");
}

/** Goes to the provider, is somebody there, and comes back. @returns where the provider sends them */
async function chosen(visitor: Visitor, email: string): Promise<string> {
  const begun = await visitor.post("/api/auth/sign-in/social", {
    ...{ provider: "house", callbackURL: "/welcome-back", errorCallbackURL: "/sign-in" },
  });
  const cookies = new Map<string, string>();
  let address = begun.body.url as string;
  for (;;) {
    const cookie = [...cookies].map(([name, value]) => `${name}=${value}`).join("; ");
    const answer = await fetch(address, { redirect: "manual", headers: { cookie } });
    for (const one of answer.headers.getSetCookie()) {
      const [name, ...value] = one.split(";")[0].split("=");
      cookies.set(name, value.join("="));
    }
    const next = answer.headers.get("location");
    address = next
      ? new URL(next, address).href
      : `${given.issuer}${(await answer.text()).match(new RegExp(`href="(/choose/[^"]*${encodeURIComponent(email)})"`))![1]}`;
    if (address.startsWith(app.settings.url)) return address.slice(app.settings.url.length);
  }
}

const comesBack = async (email: string, visitor = new Visitor(app)) => {
  const answer = await visitor.ask("GET", await chosen(visitor, email));
  return { visitor, status: answer.status, to: answer.headers.get("location") };
};
const roleOf = async (email: string) =>
  (await app.db.selectFrom("user").select("role").where("email", "=", email).executeTakeFirst())?.role;

test("whoever has an account and is vouched for is let in; all others come back to a page that says so", async () => {
  await withProvider();
  const ada = await comesBack("ada@home.example");
  expect([ada.status, ada.to]).toEqual([302, expect.stringContaining("/welcome-back")]);
  const { body } = await ada.visitor.ask("GET", "/api/self");
  expect([body.email, body.role, body.sessions[0].by]).toEqual(["ada@home.example", "auditor", "single-sign-on"]);
  for (const email of PEOPLE.slice(1).map(({ email }) => email)) {
    const { status, to, visitor } = await comesBack(email);
    expect([email, status, to]).toEqual([email, 302, expect.stringContaining("/sign-in?error=")]);
    expect((await visitor.ask("GET", "/api/self")).status).toBe(401);
  }
  expect(await roleOf("nobody@home.example")).toBeUndefined();
});

test("what a provider sends back is good for the browser that asked, once", async () => {
  await withProvider();
  const visitor = new Visitor(app);
  const back = await chosen(visitor, "ada@home.example");
  const stranger = await new Visitor(app).ask("GET", back);
  expect(stranger.headers.get("location")).toContain("error=");
  const twin = visitor.twin();
  expect((await visitor.ask("GET", back)).headers.get("location")).toContain("/welcome-back");
  expect((await twin.ask("GET", back)).headers.get("location")).toContain("error=");
  const [, query] = back.split("?");
  const parameters = new URLSearchParams(query);
  parameters.set("state", "another");
  expect((await visitor.ask("GET", `/api/auth/callback/house?${parameters}`)).headers.get("location")).toContain(
    "error",
  );
});

test("a claim says what somebody is, where the settings say which; whoever has none of our roles is not let in", async () => {
  await withProvider({ roleClaim: "role" });
  expect((await comesBack("ada@home.example")).to).toContain("/welcome-back");
  expect(await roleOf("ada@home.example")).toBe("administrator");
  await app.close();
  await withProvider({ roleClaim: "name" });
  expect((await comesBack("ada@home.example")).to).toContain("/sign-in?error=");
  expect(await roleOf("ada@home.example")).toBe("auditor");
});
