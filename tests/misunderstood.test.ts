import { addPerson } from "@/server/people/people";
import type { App } from "@/server/app";
import { appIn } from "./app";
import { Visitor } from "./visitor";

/** A query that isn't understood whole finds more than was asked for: it decides about nothing in bulk. */
const QUERY = "label:confidential passwort:none";
let app: App;
let ada: Visitor;

beforeAll(async () => {
  app = await appIn();
  const password = "four unlike words here";
  await addPerson(app, { name: "Ada Umberlow", email: "ada@home.example", password }, "administrator", "tests");
  ada = new Visitor(app);
  await ada.signIn("ada@home.example", password);
});
afterAll(() => app.close());

test("nothing is marked, waived or exported by it, and the answer says what wasn't understood", async () => {
  const given = { rules: null, reason: "Press kit", until: "2026-12-24T00:00:00Z" };
  const answers = [
    await ada.ask("GET", `/api/register/ids?query=${encodeURIComponent(QUERY)}`),
    await ada.post("/api/waivers", { query: QUERY, ...given }),
  ];
  expect(answers.map(({ status, body }) => [status, body.error])).toEqual([
    [400, expect.stringMatching(/^Nothing was marked: there is no field passwort; did you mean password\?/)],
    [400, expect.stringMatching(/^Nothing was waived: there is no field passwort; did you mean password\?/)],
  ]);
  // The screen shows what the rest finds, and what is wrong with it.
  const { status, body } = await ada.ask("GET", `/api/register?query=${encodeURIComponent(QUERY)}`);
  expect([status, body.problems.length]).toEqual([200, 1]);
  expect((await ada.ask("GET", "/api/register/ids?query=password:none")).status).toBe(200);
});
