import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { NuqsTestingAdapter } from "nuqs/adapters/testing";
import type { ReactNode } from "react";
import { T } from "@/tests/records";
import type { TrailEvent, Spoken } from "@/core/trail/event";
import type { Alert } from "@/core/trail/alert";
import type { TrailCounts, TrailFacets } from "@/core/trail/counts";
import type { WatchLine } from "@/core/trail/savedWatch";
import { NOTHING_ASKED } from "@/core/trail/search";
import { StandpointContext } from "../frame/viewer";
import { EventLine } from "./EventLine";
import { AlertsScreen } from "./AlertsScreen";
import { TrailScreen } from "./TrailScreen";
import { WatchesScreen } from "./WatchesScreen";
import { watchWords } from "./watchWords";

globalThis.ResizeObserver = class {
  observe() {}
  unobserve() {}
  disconnect() {}
};

let address = "";
const pushed: string[] = [];
jest.mock("next/navigation", () => ({
  useSearchParams: () => new URLSearchParams(address),
  useRouter: () => ({ push: (to: string) => pushed.push(to) }),
}));

const bea: Spoken = {
  kind: "person",
  key: "b@quay.example",
  name: "Bea",
  detail: "b@quay.example",
  people: ["b@quay.example"],
  organisations: ["quay.example"],
};
const rider: Spoken = {
  kind: "item",
  key: "f",
  name: "Rider",
  detail: "Touring / Plans",
  label: "restricted",
  path: ["f"],
};
const link: Spoken = { kind: "share", key: "l", name: "Open link", detail: "" };
const downloaded: TrailEvent = {
  seq: 1,
  at: T - 3_600,
  source: "st",
  verb: "downloaded",
  who: bea,
  item: rider,
  share: link,
  whom: null,
  remarks: [],
};
const counts: TrailCounts = {
  found: 3,
  total: 1_200,
  histogram: { by: "hour", edges: [T - 7_200, T - 3_600, T], counts: [1, 2] },
  verbs: [
    { value: "opened", count: 1_000 },
    { value: "downloaded", count: 3 },
  ],
  stores: [{ value: "st", count: 3 }],
};
const none = { values: 0, top: [] };
const facets: TrailFacets = {
  labels: { values: 1, top: [{ value: "restricted", count: 3 }] },
  parties: none,
  organisations: none,
  people: { values: 1, top: [{ value: "b@quay.example", count: 3 }] },
};
const telling = { severity: "high" as const, webhook: false, syslog: false, mostADay: 20, quiet: null, zone: "UTC" };
const watch: WatchLine = {
  id: "w",
  name: "Downloads",
  isOn: true,
  since: 0,
  madeBy: "imre",
  watch: {
    kind: "events",
    search: { ...NOTHING_ASKED, from: null, to: null, verbs: ["downloaded"] },
    many: null,
    mail: ["desk@home.example"],
    ...telling,
  },
  open: 2,
  held: 4,
  aside: 1,
};
const alert = (id: number, more: Partial<Alert> = {}): Alert => ({
  id,
  watch: "Downloads",
  severity: "high",
  state: "new",
  firstAt: T - 60,
  lastAt: T,
  count: 3,
  shareId: "l",
  itemId: "f",
  person: "b@quay.example",
  words: `Bea downloaded Rider ${id}`,
  assignedTo: null,
  settledBy: null,
  settledAt: null,
  note: null,
  ...more,
});

/** What the server answers, by the beginning of a path; and what it was asked. */
let answers: Record<string, unknown>;
const asked: { path: string; method: string; body: unknown }[] = [];

beforeEach(() => {
  [address, asked.length, pushed.length] = ["", 0, 0];
  answers = {
    "/api/trail/counts": counts,
    "/api/trail/facets": facets,
    "/api/trail/groups": { groups: [{ event: downloaded, first: T - 7_200, count: 214, people: 3 }], next: null },
    "/api/trail?": { events: [downloaded], next: { at: T, seq: 1 } },
    "/api/stores": { stores: [{ id: "st", name: "Stacks" }] },
    "/api/watches/test": { alerts: 14, days: 90 },
    "/api/watches": { watches: [watch] },
    "/api/alerts": { alerts: [alert(1), alert(2, { severity: "urgent" })] },
    "/api/people": { people: [{ name: "Ada", email: "ada@home.example" }] },
    "/api/ways/find": { items: [{ id: "f", name: "Rider", place: ["Touring"] }], people: [], organisations: [] },
    "/api/tray": { docketId: null, changes: [], preview: null, digest: null, running: null },
  };
  globalThis.fetch = (async (path: string, init: RequestInit = {}) => {
    asked.push({ path, method: init.method ?? "GET", body: init.body && JSON.parse(init.body as string) });
    const key = Object.keys(answers).find((one) => path.startsWith(one));
    return { ok: key !== undefined, json: async () => (key ? answers[key] : {}) };
  }) as never;
});

function show(screenful: ReactNode, mayChange = true) {
  const standpoint = { viewer: { name: "Imre", address: "imre@home.example", mayChange }, now: T, past: null };
  render(
    <NuqsTestingAdapter hasMemory>
      <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
        <StandpointContext value={standpoint}>{screenful}</StandpointContext>
      </QueryClientProvider>
    </NuqsTestingAdapter>,
  );
}
const sent = (method: string) => asked.filter((one) => one.method === method).map(({ path, body }) => [path, body]);

test("an event opens its share, its item and its doer as of then, and says what can't be recalled", () => {
  show(<EventLine event={downloaded} zone="UTC" storeName="Stacks" onSearch={() => {}} />);
  const to = (name: string) => screen.getByRole("link", { name }).getAttribute("href");
  expect([to("Bea"), to("Rider"), to("Open link")]).toEqual([
    "/ways?person=b%40quay.example&at=2026-10-05T07:00:00Z",
    "/ways?item=f&at=2026-10-05T07:00:00Z",
    "/register?share=l&at=2026-10-05T07:00:00Z",
  ]);
  expect(screen.getByText("A copy is outside and can’t be recalled.")).toBeTruthy();
  expect(screen.getByText(/Stacks · Touring \/ Plans · restricted/)).toBeTruthy();
});

test("an insider who downloads takes nothing outside; whoever held a link is nobody that is known", () => {
  show(
    <>
      <EventLine
        event={{ ...downloaded, who: { ...bea, organisations: undefined } }}
        zone="UTC"
        storeName=""
        onSearch={() => {}}
      />
      <EventLine event={{ ...downloaded, who: null, verb: "opened" }} zone="UTC" storeName="" onSearch={() => {}} />
    </>,
  );
  expect(screen.queryByText(/can’t be recalled/)).toBeNull();
  expect(screen.getByText(/Somebody with the link opened/)).toBeTruthy();
});

test("like events are one line, which can be told one by one", () => {
  const onSearch = jest.fn();
  const like = { first: T - 7_200, count: 214, people: 3 };
  show(<EventLine event={downloaded} like={like} zone="Europe/Lisbon" storeName="" onSearch={onSearch} />);
  expect(screen.getByText("Downloaded 214 times by 3 people:")).toBeTruthy();
  expect(screen.getByText("first at 07:00")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Show each event" }));
  expect(onSearch).toHaveBeenCalledWith({ share: "l", item: "f", verbs: ["downloaded"] });
});

test("the trail counts what a search finds, narrows it by what happened, and searches by words and times", async () => {
  address = "label=restricted";
  show(<TrailScreen />);
  expect((await screen.findByText(/of 1,200 events/)).textContent).toBe("3 of 1,200 events");
  expect(asked.some(({ path }) => path === "/api/trail/counts?search=label%3Drestricted&zone=UTC")).toBe(true);
  const push = jest.spyOn(window.history, "pushState");
  fireEvent.click(await screen.findByRole("button", { name: /Opened/ }));
  expect(push).toHaveBeenLastCalledWith(null, "", "?verb=opened&label=restricted");
  fireEvent.click(await screen.findByRole("button", { name: /Restricted/ }));
  expect(push).toHaveBeenLastCalledWith(null, "", "?");
  fireEvent.click(await screen.findByRole("button", { name: /b@quay.example/ }));
  expect(push).toHaveBeenLastCalledWith(null, "", "?person=b%40quay.example&label=restricted&side=actor");
  fireEvent.change(screen.getByRole("textbox", { name: "Words" }), { target: { value: " rider " } });
  fireEvent.change(screen.getByLabelText("From"), { target: { value: "2026-10-05 07:00" } });
  fireEvent.click(screen.getByRole("button", { name: "Search" }));
  expect(push).toHaveBeenLastCalledWith(null, "", `?q=rider&label=restricted&from=${T - 3_600}`);
  expect(screen.getByRole("link", { name: "Make this a watch" }).getAttribute("href")).toBe(
    "/trail/watches?label=restricted&new=yes",
  );
});

test("a span is chosen on the bars by keys", async () => {
  show(<TrailScreen />);
  const push = jest.spyOn(window.history, "pushState");
  const thumb = await screen.findByRole("slider", { name: "Events: from" });
  act(() => thumb.focus());
  fireEvent.keyDown(thumb, { key: "ArrowRight" });
  expect(push).toHaveBeenLastCalledWith(null, "", `?from=${T - 3_600}&to=${T}`);
});

test("what a person, an item or a share narrows to can be left out again, and the side chosen", async () => {
  address = "person=b%40quay.example&side=actor&item=f&share=l";
  show(<TrailScreen />);
  const push = jest.spyOn(window.history, "pushState");
  fireEvent.change(await screen.findByLabelText("As actor or recipient"), { target: { value: "recipient" } });
  expect(push).toHaveBeenLastCalledWith(null, "", "?person=b%40quay.example&item=f&share=l&side=recipient");
  fireEvent.click(screen.getByRole("button", { name: "Remove Share l" }));
  expect(push).toHaveBeenLastCalledWith(null, "", "?person=b%40quay.example&item=f&side=actor");
  fireEvent.click(screen.getByRole("button", { name: "Remove Item f and all below" }));
  fireEvent.click(screen.getByRole("button", { name: "Remove b@quay.example" }));
  expect(push).toHaveBeenLastCalledWith(null, "", "?item=f&share=l");
});

test("a search that finds nothing says so, and has nothing to export", async () => {
  answers["/api/trail/counts"] = { ...counts, found: 0 };
  show(<TrailScreen />);
  expect(await screen.findByText("No events match.")).toBeTruthy();
  expect((screen.getByRole("button", { name: "Export CSV" }) as HTMLButtonElement).disabled).toBe(true);
});

test("an item is found by its name, and the trail is narrowed to it and all below", async () => {
  const pushState = jest.spyOn(window.history, "pushState");
  show(<TrailScreen />);
  const finder = await screen.findByRole("combobox", { name: "An item, a person or an organisation" });
  fireEvent.change(finder, { target: { value: "rid" } });
  await screen.findByRole("option", { name: /Rider/ });
  fireEvent.keyDown(finder, { key: "Enter" });
  expect(pushState).toHaveBeenLastCalledWith(null, "", "?item=f");
  pushState.mockRestore();
});

test("watches say what they look for, what they hold, and what they had to give up", async () => {
  show(<WatchesScreen />);
  expect(
    await screen.findByText("Downloaded. Tells desk@home.example; at most 20 messages a day, then a digest."),
  ).toBeTruthy();
  expect(screen.getByText(/1 message given up after a day of retries/)).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Send the digest now" }));
  fireEvent.click(screen.getByRole("button", { name: "Switch Downloads off" }));
  await waitFor(() => expect(sent("POST")).toHaveLength(2));
  expect(sent("POST")).toEqual([
    ["/api/watches/w/release", undefined],
    ["/api/watches", expect.objectContaining({ id: "w", isOn: false })],
  ]);
});

test("a watch is made from a search, tried on the past, and kept with who is told", async () => {
  address = "verb=downloaded&new=yes";
  show(<WatchesScreen />);
  fireEvent.click(await screen.findByRole("button", { name: "Try it on the last 90 days" }));
  expect(await screen.findByText("It would have raised 14 alerts in the last 90 days.")).toBeTruthy();
  fireEvent.change(screen.getByLabelText("Name"), { target: { value: "Mine" } });
  fireEvent.click(await screen.findByLabelText("Ada, ada@home.example"));
  fireEvent.change(screen.getByLabelText("Other addresses"), {
    target: { value: "b@home.example; c@home.example" },
  });
  fireEvent.click(screen.getByLabelText("Only if there are many in a short time"));
  fireEvent.change(screen.getByLabelText("Minutes"), { target: { value: "30" } });
  fireEvent.click(screen.getByLabelText("Quiet hours, with a digest at their end"));
  fireEvent.change(screen.getByLabelText("Severity"), { target: { value: "urgent" } });
  fireEvent.click(screen.getByRole("button", { name: "Save and switch on" }));
  await waitFor(() => expect(sent("POST").at(-1)![0]).toBe("/api/watches"));
  expect(sent("POST").at(-1)![1]).toMatchObject({
    name: "Mine",
    isOn: true,
    watch: {
      search: { verbs: ["downloaded"], from: null, to: null },
      many: { moreThan: 20, seconds: 1_800, by: "person" },
      mail: ["ada@home.example", "b@home.example", "c@home.example"],
      quiet: { from: "20:00", to: "07:00" },
      severity: "urgent",
    },
  });
});

test("whoever may only look changes no watch", async () => {
  show(<WatchesScreen />, false);
  await screen.findByText("Downloads");
  expect(screen.queryByRole("button")).toBeNull();
});

test("watches in words", () => {
  const base = { ...watch.watch, mail: [], webhook: true, syslog: true, quiet: { from: "20:00", to: "07:00" } };
  const many = { moreThan: 20, seconds: 3_600, by: "person" as const };
  const search = {
    ...NOTHING_ASKED,
    from: null,
    to: null,
    words: "tour",
    parties: ["denied" as const],
    stores: ["st"],
  };
  expect(watchWords({ ...base, kind: "events", search, many })).toBe(
    "Any event, with “tour”, with outsiders who are denied, in st: more than 20 within 1 hour by one person. " +
      "Tells the webhook, the log; at most 20 messages a day, then a digest, quiet from 20:00 to 07:00 (UTC).",
  );
  const silent = { ...telling, mail: [] };
  expect(watchWords({ kind: "not-opened", days: 14, ...silent })).toBe(
    "Somebody named on a link hasn’t opened it after 14 days. Nobody is notified; its alerts appear on the Desk.",
  );
  expect(watchWords({ kind: "nothing-sent-in", ...silent })).toMatch(/^An intake link ends and nothing was sent in\./);
});

test("alerts are walked by arrows; x stages the revoke, Enter opens the share, t shows the ways in", async () => {
  show(<AlertsScreen />);
  const list = await screen.findByRole("listbox");
  await waitFor(() => expect(document.activeElement).toBe(list));
  fireEvent.keyDown(list, { key: "ArrowDown" });
  await waitFor(() => expect(list.getAttribute("aria-activedescendant")).toBe("alert-2"));
  fireEvent.keyDown(list, { key: "x" });
  await waitFor(() => expect(sent("POST")).toEqual([["/api/tray", { changes: [{ action: "revoke", shareId: "l" }] }]]));
  fireEvent.keyDown(list, { key: "Enter" });
  fireEvent.keyDown(list, { key: "t" });
  fireEvent.keyDown(list, { key: "q" });
  expect(pushed).toEqual(["/register?share=l", "/ways?item=f&person=b%40quay.example"]);
});

test("alerts are marked by keys as everywhere, and those marked are settled, assigned or staged together", async () => {
  show(<AlertsScreen />);
  const list = await screen.findByRole("listbox");
  const marked = () =>
    within(list)
      .getAllByRole("option")
      .map((one) => one.getAttribute("aria-selected"));
  await within(list).findAllByRole("option");
  fireEvent.keyDown(list, { key: " " });
  expect(marked()).toEqual(["true", "false"]);
  fireEvent.keyDown(list, { key: "Escape" });
  fireEvent.keyDown(list, { key: "ArrowDown", shiftKey: true });
  await waitFor(() => expect(marked()).toEqual(["true", "true"]));
  fireEvent.keyDown(list, { key: "a" });
  expect(marked()).toEqual(["false", "false"]);
  fireEvent.click(screen.getByRole("checkbox", { name: "Mark all" }));
  expect(screen.getByRole("heading", { name: "2 alerts marked" })).toBeTruthy();
  fireEvent.keyDown(list, { key: "x" });
  fireEvent.change(screen.getByLabelText("Settle with a note"), { target: { value: "The press kit" } });
  fireEvent.click(screen.getByRole("button", { name: "Settle" }));
  await waitFor(() => expect(sent("POST")).toHaveLength(2));
  expect(sent("POST")).toEqual([
    ["/api/tray", { changes: [{ action: "revoke", shareId: "l" }] }],
    ["/api/alerts", { ids: [1, 2], does: { act: "settle", note: "The press kit" } }],
  ]);
  await waitFor(() => expect(marked()).toEqual(["false", "false"]));
});

test("marked watches are switched together", async () => {
  show(<WatchesScreen />);
  fireEvent.click(await screen.findByRole("checkbox", { name: "Mark Downloads" }));
  fireEvent.click(screen.getByRole("button", { name: "Switch 1 off" }));
  await waitFor(() => expect(sent("PUT")).toEqual([["/api/watches", { ids: ["w"], isOn: false }]]));
});

test("an alert is seen, given to somebody, and settled with a note", async () => {
  show(<AlertsScreen />);
  fireEvent.click(await screen.findByRole("button", { name: "Mark as seen" }));
  fireEvent.change(screen.getByLabelText("Settle with a note"), { target: { value: "Asked for" } });
  fireEvent.click(screen.getByRole("button", { name: "Settle" }));
  await screen.findByRole("option", { name: "Ada" });
  fireEvent.change(screen.getByLabelText("Assigned to"), { target: { value: "ada@home.example" } });
  fireEvent.click(screen.getByRole("button", { name: "Assign" }));
  await waitFor(() => expect(sent("POST")).toHaveLength(3));
  expect(sent("POST")).toEqual([
    ["/api/alerts", { ids: [1], does: { act: "see" } }],
    ["/api/alerts", { ids: [1], does: { act: "settle", note: "Asked for" } }],
    ["/api/alerts", { ids: [1], does: { act: "assign", to: "ada@home.example" } }],
  ]);
});

test("a settled alert says by whom and why, and can be opened again; who only looks can do neither", async () => {
  answers["/api/alerts"] = { alerts: [alert(3, { state: "settled", settledBy: "imre", note: "Asked for" })] };
  show(<AlertsScreen />);
  expect((await screen.findByText(/Settled by imre/)).textContent).toBe("Settled by imre: Asked for");
  fireEvent.click(screen.getByRole("button", { name: "Reopen" }));
  await waitFor(() => expect(sent("POST")).toEqual([["/api/alerts", { ids: [3], does: { act: "reopen" } }]]));
});

test("no alert is said so", async () => {
  answers["/api/alerts"] = { alerts: [] };
  show(<AlertsScreen />, false);
  expect(await screen.findByText(/No open alerts\. What the watches find appears here\./)).toBeTruthy();
});
