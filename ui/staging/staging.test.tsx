import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { T } from "@/tests/records";
import { readAddresses } from "../parts/AddressesField";
import { useStaging } from "./useStaging";

let sent: { path: string; body: object }[];
const done: (string | null)[] = [];

function Host() {
  const staging = useStaging(T, "reach:open", (words) => done.push(words));
  return (
    <>
      <button type="button" onClick={() => staging.ask("addresses", ["a", "b"])}>
        name
      </button>
      <button type="button" onClick={() => staging.ask("role", ["a"])}>
        lower
      </button>
      <button type="button" onClick={() => staging.ask("end", ["a"])}>
        end
      </button>
      <button type="button" onClick={() => staging.waive({ query: "reach:open", found: 340 })}>
        waive
      </button>
      <button type="button" onClick={() => (staging.password(["a"]), staging.block(["b"]))}>
        shut
      </button>
      {staging.dialog}
    </>
  );
}

beforeEach(() => {
  sent = [];
  done.length = 0;
  globalThis.fetch = (async (path: string, init: RequestInit = {}) => {
    if (init.method === "POST") sent.push({ path, body: JSON.parse(init.body as string) });
    const tray = {
      docketId: null,
      changes: [],
      preview: null,
      digest: null,
      name: null,
      needsReason: false,
      running: null,
    };
    return { ok: true, json: async () => (path === "/api/waivers" ? { given: 3 } : tray) };
  }) as never;
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Host />
    </QueryClientProvider>,
  );
});
const press = (name: string) => fireEvent.click(screen.getByRole("button", { name }));
const staged = () => sent.filter(({ path }) => path === "/api/tray").map(({ body }) => body);

test("named people are asked for, and what is no address is said at the place", async () => {
  press("name");
  const field = await screen.findByLabelText("Addresses, one per line");
  fireEvent.change(field, { target: { value: "ada@quay.example, nonsense" } });
  press("Limit it to these people");
  expect((await screen.findByRole("alert")).textContent).toMatch(/^nonsense: not an e-mail address/);
  fireEvent.change(field, { target: { value: "ada@quay.example\nodo@quay.example" } });
  press("Limit it to these people");
  const addresses = ["ada@quay.example", "odo@quay.example"];
  await waitFor(() =>
    expect(staged()).toEqual([
      {
        changes: [
          { action: "narrow", shareId: "a", addresses },
          { action: "narrow", shareId: "b", addresses },
        ],
        query: "reach:open",
      },
    ]),
  );
});

test("a role and an end are asked for; a password and a block are staged as they are", async () => {
  press("lower");
  fireEvent.click(await screen.findByRole("radio", { name: /^Comment/ }));
  press("Add the lower role to the docket");
  press("end");
  press("In 14 days");
  press("Add the end date to the docket");
  press("shut");
  const query = "reach:open";
  await waitFor(() =>
    expect(staged()).toEqual([
      { changes: [{ action: "set-role", shareId: "a", role: "comment" }], query },
      { changes: [{ action: "set-expiry", shareId: "a", expiresAt: "2026-10-19T23:59:59Z" }], query },
      { changes: [{ action: "set-password", shareId: "a" }], query },
      { changes: [{ action: "block-download", shareId: "b" }], query },
    ]),
  );
});

test("one share may end later than now, or open again, where that is said", async () => {
  press("end");
  fireEvent.click(await screen.findByLabelText("Use this date even for shares that end sooner or have ended"));
  press("In 14 days");
  press("Add the end date to the docket");
  await waitFor(() =>
    expect(staged()).toEqual([
      {
        changes: [{ action: "set-expiry", shareId: "a", expiresAt: "2026-10-19T23:59:59Z", later: true, reopen: true }],
        query: "reach:open",
      },
    ]),
  );
});

test("a waiver is given to all that a query finds, with a reason and an end", async () => {
  press("waive");
  expect(await screen.findByText("Waive the findings of 340 shares?")).toBeTruthy();
  fireEvent.change(screen.getByLabelText("Rule"), { target: { value: "dormant" } });
  fireEvent.change(screen.getByLabelText("Reason"), { target: { value: "Archive year" } });
  press("Waive");
  await waitFor(() => expect(done).toEqual(["3 findings waived."]));
  expect(sent).toEqual([
    {
      path: "/api/waivers",
      body: { query: "reach:open", rules: ["dormant"], reason: "Archive year", until: "2026-11-04T23:59:59Z" },
    },
  ]);
});

test("addresses are read one a line or with commas, each once", () => {
  expect(readAddresses(" a@x.example,b@y.example\n\na@x.example; ")).toEqual({
    addresses: ["a@x.example", "b@y.example"],
    problem: null,
  });
  expect(readAddresses("a@x.example no").problem).toBe("no: not an e-mail address such as ada@quay.example.");
  expect(readAddresses(" , ").problem).toBe("Name at least one address.");
});
