import { sql } from "kysely";
import { appIn } from "@/tests/app";
import { entriesBefore } from "../records/ledger/ledger";
import { addPerson, hasPeople, signIns } from "./people";

const IMRE = { name: "Imre Varga", email: "imre@home.example", password: "tern-gravel-lantern-oboe" };

// The sign-in package is large, and is made ready for tests when it is first loaded.
jest.setTimeout(60_000);

test("who is added can sign in by their password and no other; the ledger has who added them", async () => {
  const app = await appIn();
  expect(await hasPeople(app.db)).toBe(false);
  await addPerson(app, IMRE, "administrator", "tests");
  expect(await signIns(app.db)).toEqual([{ name: IMRE.name, email: IMRE.email }]);
  const { api } = await app.auth();
  const body = { email: IMRE.email, password: IMRE.password };
  expect((await api.signInEmail({ body })).user).toMatchObject({ email: IMRE.email, role: "administrator" });
  await expect(api.signInEmail({ body: { ...body, password: "another-long-password" } })).rejects.toMatchObject({
    status: "UNAUTHORIZED",
  });
  const kinds = (await entriesBefore(app.db, 100, 10)).map(({ kind, actor }) => `${kind} ${actor}`);
  expect(kinds).toContain("person-added tests");
  await app.close();
});

test("an address that has an account gets no second one, and nothing is left of the try", async () => {
  const app = await appIn();
  await addPerson(app, IMRE, "auditor", "tests");
  await expect(addPerson(app, { ...IMRE, name: "Another" }, "owner", "tests")).rejects.toMatchObject({});
  expect(await signIns(app.db)).toHaveLength(1);
  expect(await entriesBefore(app.db, 100, 10)).toHaveLength(1);
  expect((await sql`select id from account`.execute(app.db)).rows).toHaveLength(1);
  await app.close();
});
