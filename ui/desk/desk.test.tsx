import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import type { Desk } from "@/contract/desk";
import type { WhereToStart } from "@/contract/shortlist";
import { LABELS } from "@/core/estate/records";
import { LATCHES } from "@/core/changes/latches";
import { T } from "@/tests/records";
import { ChannelsPart } from "../estate/ChannelsPart";
import { StandpointContext } from "../frame/viewer";
import { AlertsScreen } from "../trail/AlertsScreen";
import { WatchesScreen } from "../trail/WatchesScreen";
import { SeenScreen } from "../seen/SeenScreen";
import { DeskScreen } from "./DeskScreen";

jest.mock("next/navigation", () => ({ useRouter: () => ({ push: jest.fn() }) }));
jest.mock("../frame/HistoryChart", () => ({ HistoryChart: () => <p>The chart</p> }));

class Events {
  onmessage: ((event: { data: string }) => void) | null = null;
  close() {}
}
globalThis.EventSource = Events as never;

const tightness = LABELS.flatMap((label) => LATCHES.map((latch) => ({ label, latch, shut: 0, should: 0 })));
tightness[tightness.length - 4] = { label: "restricted", latch: "expiry", shut: 18, should: 81 };
const desk: Desk = {
  lookedBefore: "2026-10-03T08:00:00Z",
  alerts: [
    {
      id: 7,
      watch: "Open link to sensitive items",
      severity: "urgent",
      state: "new",
      firstAt: T - 60,
      lastAt: T - 60,
      count: 3,
      shareId: "l",
      itemId: "f",
      person: null,
      words: "Bea made an open link to Rider",
      assignedTo: null,
      settledBy: null,
      settledAt: null,
      note: null,
    },
  ],
  lines: [{ words: "12 shares of very high risk.", href: "/register?q=risk%3Avery-high", isPressing: true }],
  tightness,
};

let answer: unknown;
let isOk: boolean;
const asked: { path: string; method: string; body: unknown }[] = [];

/** What the Desk leads with, and what the shortlist at its bend is made of. */
const start: WhereToStart = {
  bend: { changes: 40, left: 390, lately: { people: 3, unnamed: 1 } },
  mass: 1_000,
  usedDays: 45,
  before: { day: "2026-09-05", mass: 1_250, afterwards: false },
};
const [first, bent] = [
  { changes: 0, price: 0, left: 1_000, byRisk: 1_000 },
  { changes: 40, price: 60, left: 390, byRisk: 800 },
];
const line = {
  row: { id: "l", itemName: "Rider", audience: "Whoever has the address" },
  act: "end",
  files: 44,
  others: [{ shareId: "m", words: "Tour: 3 at quay.example" }],
  othersCount: 1,
};
let leading: unknown;
const ofShortlist: Record<string, () => unknown> = {
  "/api/shortlist/start": () => leading,
  "/api/shortlist/lines": () => ({ count: 6, lines: [line] }),
  "/api/shortlist": () => ({ title: "everything", mass: 1_000, files: 10, points: [first, bent], bend: 1 }),
};

beforeEach(() => {
  [asked.length, isOk, leading] = [0, true, start];
  globalThis.fetch = (async (path: string, init: RequestInit = {}) => {
    const shortlist = ofShortlist[path.split("?")[0]];
    if (shortlist) return { ok: true, status: 200, json: async () => shortlist() };
    asked.push({ path, method: init.method ?? "GET", body: init.body && JSON.parse(init.body as string) });
    return { ok: isOk, status: isOk ? 200 : 410, json: async () => answer };
  }) as never;
});

function show(screenful: React.ReactNode, past: string | null = null) {
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <StandpointContext
        value={{ viewer: { name: "Imre", address: "imre@home.example", mayChange: true }, now: T, past }}
      >
        {screenful}
      </StandpointContext>
    </QueryClientProvider>,
  );
}

test("the Desk lists what needs attention; its first line has the focus, and arrows walk it", async () => {
  answer = desk;
  show(<DeskScreen />);
  const first = await screen.findByRole("link", { name: /Bea made an open link to Rider/ });
  const second = screen.getByRole("link", { name: "12 shares of very high risk." });
  expect([first.getAttribute("href"), second.getAttribute("href")]).toEqual([
    "/alerts?alert=7",
    "/register?q=risk%3Avery-high",
  ]);
  expect(document.activeElement).toBe(first);
  fireEvent.keyDown(first, { key: "ArrowDown" });
  expect(document.activeElement).toBe(second);
  fireEvent.keyDown(second, { key: "ArrowDown" });
  fireEvent.keyDown(second, { key: "ArrowUp" });
  expect(document.activeElement).toBe(first);
  expect(screen.getByText(/Your last visit was on 3 Oct 2026/)).toBeTruthy();
  expect(asked[0]).toMatchObject({ path: "/api/desk?zone=UTC&style=day-first", method: "POST" });
});

test("a cell of the tightness table leads to those that have the latch open", async () => {
  answer = desk;
  show(<DeskScreen />);
  const cell = await screen.findByRole("link", { name: "18 of 81" });
  expect(new URL(cell.getAttribute("href")!, "http://x").searchParams.get("q")).toBe(
    "outside:yes state:live label:restricted latch:expiry",
  );
  expect(screen.getAllByText("none")).toHaveLength(15);
});

const facet = (field: string, ...top: [value: string, count: number][]) => {
  return { field, values: top.length, none: 0, top: top.map(([value, count]) => ({ value, title: value, count })) };
};
const funnel = (total: number) => ({
  histograms: [],
  facets: [
    facet("state", ["live", total], ["revoked", 5]),
    facet("store", ["Stacks", total - 1], ["Dock", 1]),
    facet("outside", ["yes", 81]),
    facet("reach", ["open", 40]),
    facet("risk", ["very-high", 12]),
    facet("rule", ["open-expiry", 9], ["open-password", 8], ["dormant", 7], ["blanket", 6]),
  ],
});

test.each([
  [start, "40 changes shut 61 % of what is open", "What is open weighs 1,000, 20 % less than on 5 Sep 2026."],
  [
    { ...start, before: { day: "2026-09-05", mass: 800, afterwards: true } },
    "40 changes shut 61 % of what is open",
    "What is open weighs 1,000, 25 % more than on 5 Sep 2026, as far as the stores know about that day.",
  ],
  [{ ...start, bend: null, mass: 0, before: null }, "Nothing is open that could be shut", "What is open weighs 0."],
])("the Desk leads with where to start, and with how much less is open (%#)", async (given, head, fall) => {
  [answer, leading] = [desk, given];
  show(<DeskScreen />);
  const lead = within(await screen.findByRole("region", { name: head }));
  expect(lead.getByText(fall)).toBeTruthy();
  expect(lead.getByRole("link", { name: "Review" }).getAttribute("href")).toBe("/desk/shortlist");
  if (given.bend)
    expect(lead.getByText(/^3 people used any of it in 45 days. 1 share was used by people/)).toBeTruthy();
});

test("on the first visit a Desk with nothing on it says what was found, and what is most worth doing first", async () => {
  answer = { ...desk, alerts: [], lines: [], lookedBefore: null };
  const before = globalThis.fetch;
  globalThis.fetch = (async (path: string, init: RequestInit) =>
    path.startsWith("/api/register/funnel")
      ? { ok: true, json: async () => funnel(path.includes("used") ? 30 : 120) }
      : before(path, init)) as never;
  show(<DeskScreen />);
  expect(
    await screen.findByText(/^Nothing right now\. Alerts, and anything that gets stuck, will appear here\./),
  ).toBeTruthy();
  expect(screen.getByText(/This is your first visit/)).toBeTruthy();
  const found = within(screen.getByRole("region", { name: "Your first visit: what was found" }));
  const first = await found.findByRole("link", { name: "120 shares" });
  expect(first.closest("p")!.textContent).toBe(
    "Tight Latch found 120 shares in 2 stores, including 81 outside shares.",
  );
  expect(found.getByRole("link", { name: "30 of them" }).getAttribute("href")).toBe(
    `/register?${new URLSearchParams({ q: "reach:open -used:<90d" })}`,
  );
  expect((await found.findAllByRole("listitem")).map((one) => one.textContent)).toEqual([
    "End a share of Rider (whoever has the address). Closes 44 files together with Tour: 3 at quay.example.",
  ]);
  expect(found.getByRole("link", { name: /^End a share/ }).getAttribute("href")).toBe("/desk/shortlist?changes=40");
});

test("mail, webhook and log are set, and mail is tried out", async () => {
  const mail = {
    host: "mail.home.example",
    port: 587,
    secure: false,
    user: "",
    password: "unchanged",
    from: "l@home.example",
  };
  answer = { mail, webhook: null, syslog: { to: "udp", port: 514 }, to: "imre@home.example" };
  show(<ChannelsPart />);
  fireEvent.change(await screen.findByLabelText("Server"), { target: { value: "other.example" } });
  fireEvent.submit(screen.getByRole("form", { name: "Mail" }));
  fireEvent.change(screen.getByLabelText("Address"), { target: { value: "https://hooks.home.example/x" } });
  fireEvent.change(screen.getByLabelText("Secret"), { target: { value: "whsec_x" } });
  fireEvent.submit(screen.getByRole("form", { name: "Webhook" }));
  const log = screen.getByLabelText("A file name, or a port") as HTMLInputElement;
  expect(log.value).toBe("514");
  fireEvent.change(log, { target: { value: "alerts.log" } });
  fireEvent.submit(screen.getByRole("form", { name: /^Log/ }));
  fireEvent.click(screen.getAllByRole("button", { name: "Disconnect" })[1]);
  fireEvent.click(screen.getByRole("button", { name: "Send me a test mail" }));
  expect(await screen.findByText("Sent to imre@home.example.")).toBeTruthy();
  expect(asked.filter(({ method }) => method === "PUT").map(({ body }) => body)).toEqual([
    { mail: { ...mail, host: "other.example" } },
    { webhook: { url: "https://hooks.home.example/x", secret: "whsec_x" } },
    { syslog: { to: "file", name: "alerts.log" } },
    { syslog: null },
  ]);
});

test("the address in a mail does its one thing when it is pressed, or says why not", async () => {
  answer = {};
  location.hash = "#k.t.s";
  show(<SeenScreen />);
  expect(asked).toEqual([]);
  fireEvent.click(screen.getByRole("button", { name: "Mark it as seen" }));
  expect(await screen.findByText(/Marked as seen\. There is nothing more to do here\./)).toBeTruthy();
  expect(asked[0]).toEqual({ path: "/api/seen", method: "POST", body: { token: "k.t.s" } });
});

test("an address in a mail that no longer holds says so", async () => {
  [answer, isOk] = [
    { error: "This address no longer works. The newest mail has the right one; or ask whoever runs Tight Latch." },
    false,
  ];
  location.hash = "#k.t.s";
  show(<SeenScreen />);
  fireEvent.click(screen.getByRole("button", { name: "Mark it as seen" }));
  await waitFor(() =>
    expect(screen.getByRole("alert").textContent).toBe(
      "This address no longer works. The newest mail has the right one; or ask whoever runs Tight Latch.",
    ),
  );
});

test.each([
  ["the Desk", <DeskScreen key="desk" />],
  ["alerts", <AlertsScreen key="alerts" />],
  ["watches", <WatchesScreen key="watches" />],
])("in the past, %s say that they show the present only, and nothing is asked", (_, screenful) => {
  show(screenful, "2026-06-01T12:00:00Z");
  expect(screen.getByRole("status").textContent).toContain("This screen only shows the present.");
  expect(asked).toEqual([]);
});
