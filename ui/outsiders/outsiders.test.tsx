import common from "email-providers/common.json";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { NuqsTestingAdapter, type UrlUpdateEvent } from "nuqs/adapters/testing";
import type { ReactNode } from "react";
import type { OrganisationTold } from "@/contract/outsiders";
import type { Organisation } from "@/core/outsiders/organisations";
import { DAY, rfc3339 } from "@/core/time/instant";
import { T } from "@/tests/records";
import { StandpointContext } from "../frame/viewer";
import { LookAlikesScreen } from "./LookAlikesScreen";
import { OrganisationScreen } from "./OrganisationScreen";
import { OrganisationsScreen } from "./OrganisationsScreen";

const quay: Organisation = {
  ...{ domain: "quay.example", stance: "trusted", people: 3, shares: 4, files: 9, folders: 1, labels: [1, 2, 3, 4] },
  ...{ since: T - 90 * DAY, lastUsed: null, makers: 2, engagements: 1, findings: 5, risk: "high" },
};
const mailboxes: Organisation = { ...quay, domain: "", stance: "personal", people: 12 };
const told: OrganisationTold = {
  organisation: quay,
  notes: [{ author: "ada@home.example", at: "2026-10-01T08:00:00Z", text: "The contract is with Odo" }],
  sheet: {
    projects: [{ id: "e", name: "Autumn tour", ends: T + DAY }],
    domains: ["quay.example"],
    people: [
      { address: "odo@quay.example", name: "Odo", status: "active", shares: 2, items: 9 },
      { address: "new@quay.example", name: "new@quay.example", status: "active", shares: 1, items: 1 },
      { address: "gus@quay.example", name: "Gus", status: "left", shares: 0, items: 0 },
    ],
    labels: [1, 2, 3, 4],
    items: [
      {
        ...{ id: "f", name: "Rider", kind: "file", label: "restricted", place: ["Stacks", "Touring"] },
        ...{ role: "view", download: false, until: T + DAY },
      },
    ],
  },
  stances: [],
  open: [
    { id: "used", item: "Budget", place: ["Stacks"], used: true },
    { id: "other", item: "Plans", place: ["Stacks"], used: false },
  ],
};

let sent: { path: string; method: string; body: unknown }[];
let answers: Record<string, unknown>;

beforeEach(() => {
  sent = [];
  answers = {
    "/api/outsiders": { total: 240, found: 240, page: [quay, mailboxes] },
    "/api/outsiders/one": told,
    "/api/outsiders/look-alikes": {
      found: 1,
      pairs: [
        {
          likeness: "edit",
          sides: [
            { domain: "quay.example", isHome: false, organisation: quay },
            { domain: "quey.example", isHome: false, organisation: { ...quay, domain: "quey.example", stance: null } },
          ],
        },
      ],
      same: [["hall.example", "hall.test"]],
    },
  };
  globalThis.fetch = (async (path: string, { method, body }: RequestInit) => {
    sent.push({ path, method: method ?? "GET", body: body ? JSON.parse(body as string) : undefined });
    const answer = answers[path.split("?")[0]] ?? {};
    return answer instanceof Error
      ? { ok: false, status: 409, json: async () => ({ error: answer.message }) }
      : { ok: true, status: 200, json: async () => answer };
  }) as unknown as typeof fetch;
});

let address: UrlUpdateEvent;
function show(element: ReactNode, { mayChange = true, past = null as string | null, query = "" } = {}) {
  const viewer = { name: "Ada", address: "ada@home.example", mayChange };
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <NuqsTestingAdapter searchParams={query} onUrlUpdate={(event) => (address = event)} hasMemory>
        <StandpointContext value={{ viewer, past, now: T, present: T, setPast: () => undefined } as never}>
          {element}
        </StandpointContext>
      </NuqsTestingAdapter>
    </QueryClientProvider>,
  );
}
const last = (method: string) => sent.findLast((one) => one.method === method);

test("the list tells each organisation by its columns, and what it is asked for stands in the address", async () => {
  show(<OrganisationsScreen />);
  const row = (await screen.findByText("quay.example")).closest("tr")!;
  expect(
    within(row)
      .getAllByRole("cell")
      .map((cell) => cell.textContent),
  ).toEqual([
    ...["trusted", "3", "9", "1", "7", "4", "2"],
    ...[expect.stringMatching(/2026/), "not known", "1", "5", "High"],
  ]);
  expect(screen.getByText("Private mailboxes")).toBeTruthy();
  const head = (name: string) => screen.getByRole("columnheader", { name });
  expect(head("Sensitive").getAttribute("aria-sort")).toBe("descending");
  fireEvent.click(screen.getByRole("button", { name: "Shares" }));
  await waitFor(() => expect(head("Shares").getAttribute("aria-sort")).toBe("descending"));
  fireEvent.click(screen.getByRole("button", { name: "Shares" }));
  await waitFor(() => expect(head("Shares").getAttribute("aria-sort")).toBe("ascending"));
  fireEvent.click(screen.getByRole("button", { name: "Next" }));
  await waitFor(() => expect(address.queryString).toBe("?by=shares&reversed=true&from=100"));
  fireEvent.change(screen.getByRole("combobox", { name: "Query" }), { target: { value: "quay stance:none" } });
  await waitFor(() => expect(last("GET")!.path).toMatch(/q=quay\+stance%3Anone.*by=shares.*reversed=yes.*from=0/));
});

test("where nothing is found it says what to do; a failure is told in the server's words", async () => {
  answers["/api/outsiders"] = { total: 3, found: 0, page: [], problems: [] };
  show(<OrganisationsScreen />, { query: "?q=nobody" });
  expect(await screen.findByText(/No organisations match\. Remove a part of the query/)).toBeTruthy();
  answers["/api/outsiders/one"] = new Error("Nobody of nowhere.example is known here.");
  show(<OrganisationScreen />, { query: "?domain=nowhere.example" });
  expect(await screen.findByText("Nobody of nowhere.example is known here.")).toBeTruthy();
});

test("one organisation: in a sentence, its people, and its cut-off with the links that they have used", async () => {
  show(<OrganisationScreen />, { query: "?domain=quay.example" });
  expect(await screen.findByText(/3 people reach 10 items by 4 shares, which 2 people made/)).toBeTruthy();
  expect(screen.getByText("Known only by address")).toBeTruthy();
  expect(screen.getByText("left")).toBeTruthy();
  const boxes = screen.getAllByRole<HTMLInputElement>("checkbox");
  expect(boxes.map(({ checked }) => checked)).toEqual([true, false]);
  fireEvent.click(boxes[1]);
  fireEvent.click(screen.getByRole("button", { name: "Add the cut-off and 2 revokes to the docket" }));
  await waitFor(() =>
    expect(last("POST")!.body).toEqual({
      changes: [
        { action: "cut-off-organisation", organisation: "quay.example" },
        { action: "revoke", shareId: "used" },
        { action: "revoke", shareId: "other" },
      ],
    }),
  );
});

test("a stance is set with a reason and an end", async () => {
  show(<OrganisationScreen />, { query: "?domain=quay.example" });
  fireEvent.click(await screen.findByRole("button", { name: /Set a stance/ }));
  fireEvent.click(screen.getByRole("radio", { name: /Denied/ }));
  fireEvent.change(screen.getByLabelText("Why"), { target: { value: "A rival" } });
  fireEvent.change(screen.getByLabelText("Until"), { target: { value: "in 3 days" } });
  fireEvent.click(screen.getByRole("button", { name: "Save" }));
  await waitFor(() =>
    expect(last("PUT")!.body).toEqual({
      ...{ domain: "quay.example", stance: "denied", reason: "A rival" },
      until: rfc3339(Math.ceil((T + 3 * DAY) / DAY) * DAY - 1),
    }),
  );
});

test("its projects lead on, and a note stays with who left it", async () => {
  answers["/api/outsiders/one"] = told;
  show(<OrganisationScreen />, { query: "?domain=quay.example" });
  expect((await screen.findByRole("link", { name: "Autumn tour" })).getAttribute("href")).toBe("/people/project?id=e");
  expect(screen.getByText("The contract is with Odo")).toBeTruthy();
  fireEvent.change(screen.getByRole("textbox", { name: "A note on this organisation" }), {
    target: { value: "Ended" },
  });
  fireEvent.click(screen.getByRole("button", { name: "Add note" }));
  await waitFor(() => expect(last("POST")?.body).toEqual({ domain: "quay.example", text: "Ended" }));
});

test("a common mailbox provider is proposed as one of private mailboxes, and set as such by nobody but an administrator", async () => {
  const provider = common[0];
  answers["/api/outsiders/one"] = { ...told, organisation: { ...quay, domain: provider, stance: null }, stances: [] };
  show(<OrganisationScreen />, { query: `?domain=${provider}` });
  expect(
    await screen.findByText(
      /A published list names this domain as a common mailbox provider\. If its addresses belong to private people, set it to private mailboxes\./,
    ),
  ).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: /Set a stance/ }));
  expect(screen.getByRole<HTMLInputElement>("radio", { name: /Private mailbox/ }).checked).toBe(true);
  expect(sent.filter(({ method }) => method !== "GET")).toEqual([]);
});

test("each domain of private mailboxes has its stance, and one that was set here can be ended", async () => {
  const domains = ["mailbarn.example", "post.example"];
  const stances = [
    {
      domain: "post.example",
      stance: "personal",
      reason: "Mail for all",
      setBy: "ada",
      setAt: T,
      until: null,
    } as const,
  ];
  answers["/api/outsiders/one"] = { ...told, organisation: mailboxes, sheet: { ...told.sheet, domains }, stances };
  show(<OrganisationScreen />);
  expect(await screen.findByText(/Set by ada on .*: Mail for all/)).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "End it now" }));
  await waitFor(() => expect(last("DELETE")!.body).toEqual({ domain: "post.example" }));
  expect(screen.queryByRole("button", { name: /cut-off/ })).toBeNull();
});

test("of look-alikes it is said that they are one firm, or that they aren't, or the second is denied", async () => {
  show(<LookAlikesScreen />);
  fireEvent.click(await screen.findByRole("button", { name: /One firm.*quay.example and quey.example/ }));
  await waitFor(() => expect(last("PUT")!.body).toEqual({ domains: ["quay.example", "quey.example"], isSame: true }));
  fireEvent.click(screen.getByRole("button", { name: /They are two firms/ }));
  await waitFor(() => expect(last("PUT")!.body).toEqual({ domains: ["hall.example", "hall.test"], isSame: false }));
  fireEvent.click(screen.getByRole("button", { name: /Deny the second.*quey.example/ }));
  await waitFor(() =>
    expect(last("PUT")!.body).toEqual({
      ...{ domain: "quey.example", stance: "denied", reason: "It is easily confused with quay.example.", until: null },
    }),
  );
});

test("who may only read, or looks at a past instant, changes nothing", async () => {
  show(<OrganisationScreen />, { query: "?domain=quay.example", mayChange: false });
  await screen.findByText("What they reach");
  expect(screen.queryAllByRole("button").map(({ textContent }) => textContent)).toEqual(["Print"]);
});
