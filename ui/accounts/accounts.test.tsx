import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import type { Account } from "@/contract/people";
import { T } from "@/tests/records";
import { StandpointContext } from "../frame/viewer";
import { AccountsScreen } from "./AccountsScreen";

const account = (name: string, more: Partial<Account> = {}): Account => ({
  ...{ id: name, name, email: `${name.toLowerCase()}@home.example`, role: "auditor" },
  ...{ hasPassword: true, hasCodes: false, passkeys: 0, sessions: 0, lastSignedIn: null },
  ...more,
});
const welcome = {
  address: "http://here/welcome#k.t.s",
  until: "2026-10-08T08:00:00Z",
  isMailed: false,
  mailProblem: null,
};
let asked: { path: string; method: string; body?: unknown }[];
let refusal: string | null;

beforeEach(() => {
  [asked, refusal] = [[], null];
  globalThis.fetch = (async (path: string, { method, body }: RequestInit) => {
    asked.push({ path, method: method!, ...(body ? { body: JSON.parse(body as string) } : {}) });
    if (method === "GET")
      return {
        ok: true,
        json: async () => ({
          accounts: [
            account("Ada", { role: "administrator", sessions: 1 }),
            account("Bea", { hasCodes: true, passkeys: 2, sessions: 3, lastSignedIn: "2026-10-05T07:00:00Z" }),
            account("Cato", { hasPassword: false }),
          ],
          policy: { factorFor: ["administrator"], passwordsOff: false },
          hasSingleSignOn: true,
        }),
      };
    if (refusal) return { ok: false, status: 409, json: async () => ({ error: refusal }) };
    return { ok: true, json: async () => welcome };
  }) as never;
});

async function show(mayChange = true) {
  render(
    <QueryClientProvider client={new QueryClient()}>
      <StandpointContext
        value={{ viewer: { name: "Ada", address: "ada@home.example", mayChange }, now: T, past: null }}
      >
        <AccountsScreen />
      </StandpointContext>
    </QueryClientProvider>,
  );
  await screen.findByText("Bea");
  return (name: string) => within(screen.getByText(name).closest("tr")!);
}
const sent = () => asked.filter(({ method }) => method !== "GET");

test("each line says what somebody may do, how they sign in and where; nobody is offered anything against themselves", async () => {
  const line = await show();
  expect(line("Bea").getByText("password and code, 2 passkeys")).toBeTruthy();
  expect(line("Bea").getByText("3 sessions")).toBeTruthy();
  expect(line("Cato").getByText("nothing yet: invited")).toBeTruthy();
  expect(line("Ada").queryByRole("button")).toBeNull();
  expect(line("Ada").getByText("This is you.")).toBeTruthy();
});

test("an auditor sees all of it and is offered nothing", async () => {
  await show(false);
  expect(screen.queryByRole("button")).toBeNull();
  expect(screen.queryByRole("combobox")).toBeNull();
});

test("a role is changed in place, and a refusal stands at its line", async () => {
  const line = await show();
  refusal = "They are the only administrator. Make somebody else an administrator first.";
  fireEvent.change(line("Bea").getByRole("combobox"), { target: { value: "owner" } });
  expect((await screen.findByRole("alert")).textContent).toBe(refusal);
  expect(sent()).toEqual([{ path: "/api/accounts/Bea/role", method: "PUT", body: { role: "owner" } }]);
});

test("what can't be undone is said before it is done, and a reset is followed by the address to hand over", async () => {
  const line = await show();
  fireEvent.click(line("Bea").getByText("Reset the password"));
  expect(screen.getByText(/This can.t be undone/)).toBeTruthy();
  expect(sent()).toEqual([]);
  fireEvent.click(screen.getByText("Cancel"));
  expect(screen.queryByText(/This can.t be undone/)).toBeNull();
  fireEvent.click(line("Bea").getByText("Reset the password"));
  fireEvent.click(screen.getAllByText("Reset the password")[1]);
  expect(await screen.findByText(welcome.address)).toBeTruthy();
  expect(screen.getByText(/Give this address to the person at bea@home.example/)).toBeTruthy();
  expect(sent()).toEqual([{ path: "/api/accounts/Bea/password", method: "POST" }]);
});

test("somebody is invited, and how people sign in is set", async () => {
  await show();
  fireEvent.change(screen.getByLabelText("Name"), { target: { value: "Dora Lund" } });
  fireEvent.change(screen.getByLabelText("E-mail address"), { target: { value: "dora@home.example" } });
  fireEvent.click(screen.getByRole("button", { name: "Invite" }));
  expect(await screen.findByText(welcome.address)).toBeTruthy();
  fireEvent.click(screen.getByLabelText("auditors"));
  fireEvent.click(screen.getByRole("button", { name: "Save" }));
  await waitFor(() => expect(sent()).toHaveLength(2));
  expect(sent().map(({ body }) => body)).toEqual([
    { name: "Dora Lund", email: "dora@home.example", role: "auditor" },
    { factorFor: ["administrator", "auditor"], passwordsOff: false },
  ]);
});
