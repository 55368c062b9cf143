import type { TrailEvent } from "@/core/trail/event";
import type { EventsPage, GroupsPage } from "@/core/trail/page";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { shareDetail } from "@/core/preview/shareDetail";
import { listedRows } from "@/tests/registerModel";
import { estateOf, file, grant, item, link, named, store, T } from "@/tests/records";
import type { ShareView } from "@/core/preview/shareDetail";
import { Inspector } from "./Inspector";

/** The inspector over a real answer of the core, for one share of a small estate. */
const shares = [
  link("open", "f", { address: "https://dock.example/l/7Qk1lI0O" }),
  named("named", "f", ["out@quay.example"]),
  grant("g", "a", "out"),
];
const estate = estateOf(
  store("st", { linkExpiry: ["open"], perRecipientUse: false }),
  item("a", null, { name: "Tour", label: "restricted" }),
  file("f", "a", { name: "Scans" }),
  shares,
);

/** What the server adds to an answer: what people have written, and leave that they gave. */
let answered: Partial<ShareView> = {};
/** What the trail tells of the share. */
let trail: Pick<EventsPage, "events"> & Pick<GroupsPage, "groups">;
const asked: { path: string; init: RequestInit }[] = [];

beforeEach(() => {
  answered = {};
  trail = { events: [], groups: [] };
  asked.length = 0;
});

function show(id: string, more: Partial<Parameters<typeof Inspector>[0]> = {}) {
  const row = listedRows(estate, T).find((one) => one.id === id)!;
  const detail = shareDetail(
    estate,
    estate.share(id)!,
    shares.find((one) => one.id === id)!,
    row,
    T,
    [],
  );
  globalThis.fetch = (async (path: string, init: RequestInit) => {
    if (path.startsWith("/api/trail")) return { ok: true, json: async () => trail };
    asked.push({ path, init });
    if (path.endsWith("/address"))
      return { ok: true, json: async () => ({ address: "https://dock.example/l/7Qk1lI0O" }) };
    return { ok: true, json: async () => ({ ...detail, notes: [], waivers: [], ...answered }) };
  }) as never;
  const staging = {
    stage: jest.fn(),
    revoke: jest.fn(),
    password: jest.fn(),
    block: jest.fn(),
    clear: jest.fn(),
    ask: jest.fn(),
    waive: jest.fn(),
    dialog: null,
  };
  const acts = { onClose: jest.fn(), onOpen: jest.fn() };
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Inspector id={id} past={null} now={T} mayChange staged={[]} staging={staging} {...acts} {...more} />
    </QueryClientProvider>,
  );
  return { ...acts, ...staging };
}

test("tells what the share does, what is wrong with it, and what its end would mean", async () => {
  show("open");
  expect(
    await screen.findByText(
      /Anyone who holds this link can look at this file and download it, without a password and with no end date./,
    ),
  ).toBeTruthy();
  expect(screen.getByText("It reaches restricted items, which no open link may reach.")).toBeTruthy();
  expect(screen.getByText("1 change. 1 item no longer open to anyone.")).toBeTruthy();
  expect(screen.getByRole("link", { name: "Everybody who reaches this item" }).getAttribute("href")).toBe(
    "/ways?item=f",
  );
});

test("says how sensitive the item is, and where its label comes from", async () => {
  show("open");
  expect(await screen.findByText(/labelled restricted \(from the store on Tour, which it is in\)/)).toBeTruthy();
});

test("its address is shown to an administrator who asks for it, and offered to nobody else", async () => {
  show("open");
  fireEvent.click(await screen.findByRole("button", { name: "Show the address" }));
  expect(await screen.findByText("https://dock.example/l/7Qk1lI0O")).toBeTruthy();
  expect(asked.at(-1)).toMatchObject({ path: "/api/shares/open/address", init: { method: "POST" } });
  cleanup();
  show("open", { mayChange: false });
  await screen.findByText("It reaches restricted items, which no open link may reach.");
  expect(screen.queryByRole("button", { name: "Show the address" })).toBeNull();
});

test("its expiry latch and its revoke lead to the tray, other ways in to their share", async () => {
  const acts = show("open");
  fireEvent.click(await screen.findByTitle("Set an end date"));
  fireEvent.click(screen.getByRole("button", { name: "Add its revoke to the docket" }));
  fireEvent.click(screen.getByRole("button", { name: "right to view: Person out, quay.example" }));
  fireEvent.click(screen.getByTitle("Block downloads"));
  fireEvent.click(screen.getByTitle("Give it a password"));
  fireEvent.click(screen.getByTitle("Make a new link for named people"));
  expect([acts.ask.mock.calls, acts.revoke.mock.calls, acts.onOpen.mock.calls[0]]).toEqual([
    [
      ["end", ["open"]],
      ["addresses", ["open"]],
    ],
    [[["open"]]],
    ["g"],
  ]);
  expect([acts.block.mock.calls, acts.password.mock.calls]).toEqual([[[["open"]]], [[["open"], true]]]);
});

test("a latch that the store can't shut is no control, and says why", async () => {
  show("named");
  expect(await screen.findByTitle("Only open links can have a password; this is for a known circle.")).toBeTruthy();
  expect(screen.getByTitle("Schedule its revoke: its store can’t keep an end date")).toBeTruthy();
  expect(screen.queryByTitle("Set an end date")).toBeNull();
  expect(screen.getByText("This store doesn’t say who opened it.")).toBeTruthy();
});

test("tells by name who loses access if it goes, and who keeps it by what", async () => {
  show("g");
  expect(await screen.findByText("Who loses access")).toBeTruthy();
  expect(screen.getAllByText("Tour")).toHaveLength(2);
  expect(screen.getByText("by named link on Scans; open link on Scans")).toBeTruthy();
});

test("whoever may only look has nothing to press that changes anything", async () => {
  show("open", { mayChange: false });
  await screen.findByText("Scans");
  expect(screen.queryByRole("button", { name: "Add its revoke to the docket" })).toBeNull();
  expect(screen.queryByTitle("Set an end date")).toBeNull();
});

test("a share that is in the tray says so", async () => {
  const change = { action: "revoke" as const, shareId: "open" };
  show("open", { staged: [{ subject: "open", itemName: "Plan", audience: "anyone", change }] });
  const staged = within(await screen.findByRole("list", { name: "In the tray" }));
  expect(staged.getByText("Revoke")).toBeTruthy();
  fireEvent.click(staged.getByRole("button", { name: "Remove" }));
  await waitFor(() =>
    expect(asked.some(({ path, init }) => path === "/api/tray" && init.method === "DELETE")).toBe(true),
  );
});

test("a finding's remedies are staged, or say why its store doesn't allow them", async () => {
  const acts = show("open");
  fireEvent.click((await screen.findAllByRole("button", { name: "Give it an end date" }))[0]);
  fireEvent.click(screen.getAllByRole("button", { name: "Revoke the link" })[0]);
  expect([acts.ask.mock.calls, acts.stage.mock.calls]).toEqual([
    [["end", ["open"]]],
    [[[{ action: "revoke", shareId: "open" }]]],
  ]);
});

test("a waiver takes a reason and an end, and is sent for just this rule", async () => {
  show("open");
  fireEvent.click((await screen.findAllByRole("button", { name: "Waive it for now" }))[0]);
  fireEvent.change(screen.getByRole("textbox", { name: "Reason" }), { target: { value: "Press kit" } });
  fireEvent.change(screen.getByLabelText("Until"), { target: { value: "2026-12-01" } });
  fireEvent.click(screen.getByRole("button", { name: "Waive" }));
  await waitFor(() => expect(asked.some(({ init }) => init.method === "POST")).toBe(true));
  const { path, init } = asked.find((one) => one.init.method === "POST")!;
  expect([path, JSON.parse(init.body as string)]).toEqual([
    "/api/waivers",
    { shareIds: ["open"], rules: ["open-forbidden"], reason: "Press kit", until: "2026-12-01T23:59:59Z" },
  ]);
});

test("waivers that hold can be ended, those that are over can't; notes are told with who wrote them", async () => {
  const waiver = {
    shareId: "open",
    rule: "open-expiry" as const,
    givenBy: "a@home.example",
    givenAt: "2026-10-01T00:00:00Z",
  };
  answered = {
    waivers: [
      { ...waiver, id: 1, reason: "Press kit", ends: "2026-11-01T00:00:00Z", isOver: false },
      { ...waiver, id: 2, reason: "Last year's", ends: "2026-10-02T00:00:00Z", isOver: true },
    ],
    notes: [{ shareId: "open", author: "b@home.example", at: "2026-10-04T09:00:00Z", text: "Asked Bea" }],
  };
  show("open");
  expect((await screen.findByText(/Press kit/)).textContent).toContain("Until 1 Nov 2026, 00:00");
  expect(screen.getByText(/Last year's/).textContent).toContain("Ended 2 Oct 2026");
  expect(screen.getByText("Asked Bea").textContent).toContain("b@home.example, 4 Oct 2026, 09:00");
  fireEvent.click(screen.getByRole("button", { name: "End it now" }));
  await waitFor(() => expect(asked.find(({ init }) => init.method === "DELETE")?.init.body).toBe('{"ids":[1]}'));
});

test("the trail tells what each recipient did with it, and what happened with it", async () => {
  const bea = { kind: "person" as const, key: "b@quay.example", name: "Bea", detail: "", people: ["b@quay.example"] };
  const event = (seq: number, verb: string): TrailEvent => {
    return { seq, at: T - 3_600, source: "st", verb, who: bea, item: null, share: null, whom: null, remarks: [] };
  };
  trail = {
    events: [event(1, "opened"), event(2, "opened"), event(3, "opened")],
    groups: [{ event: event(4, "downloaded"), first: T - 7_200, count: 214, people: 3 }],
  };
  answered = { recipients: [{ email: "B@quay.example", firstOpenedAt: null, lastOpenedAt: null, downloads: 0 }] };
  show("open");
  expect(await screen.findByText("Opened 3 times, last used on 5 Oct 2026; never downloaded")).toBeTruthy();
  expect(screen.getByText("Downloaded 214 times by 3 people")).toBeTruthy();
  expect(screen.getByRole("link", { name: "See all on the trail" }).getAttribute("href")).toBe("/trail?share=open");
});
