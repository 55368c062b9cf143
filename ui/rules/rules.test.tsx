import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { NuqsTestingAdapter } from "nuqs/adapters/testing";
import type { ReactNode } from "react";
import type { WaiverLine } from "@/core/register/remarks";
import { RULE_IDS } from "@/core/rules/list";
import { settingsFrom } from "@/core/rules/setting";
import type { RuleLine, RulesView, RuleTrial } from "@/core/rules/view";
import { T } from "@/tests/records";
import { StandpointContext } from "../frame/viewer";
import { RulesScreen } from "./RulesScreen";
import { modeWords, ruleSentence, slotWords } from "./ruleText";
import { WaiversScreen } from "./WaiversScreen";

// The picture is drawn by Chart.js on a canvas, which there is none of here; its words are what is asked for.
jest.mock("chart.js", () => ({
  Chart: class {
    static register() {}
    data = {};
    update() {}
    destroy() {}
  },
}));

const settings = settingsFrom({});
const lines = RULE_IDS.map((id): RuleLine => ({ id, ...settings[id], falls: 7, waived: 2, asked: 0 }));
const bars = [
  { title: "0 to 3", stands: 4, falls: 0 },
  { title: "No end", stands: 0, falls: 12 },
];
const trial: RuleTrial = {
  title: "the days until they end",
  bars,
  cut: 1,
  looksAt: 16,
  shares: 12,
  items: 0,
  owners: 5,
  outsiders: 0,
  organisations: 0,
  problems: [],
};
const preview = {
  words: "12 changes. 12 shares get an end date.",
  remedied: 12,
  previewed: 12,
  unremedied: 1,
  insiders: 2,
  outsiders: 0,
};
const waiver: WaiverLine = {
  id: 4,
  shareId: "s1",
  rule: "open-expiry",
  reason: "Press kit",
  givenBy: "ida@home.example",
  givenAt: "2026-10-01T00:00:00Z",
  ends: "2026-11-01T00:00:00Z",
  isOver: false,
  itemName: "Poster.pdf",
  place: "Stacks / Press",
};

const mails = {
  owners: [{ address: "ada@home.example", name: "Ada", findings: 7 }],
  count: 9,
  ownerless: 2,
  sample: { to: "Ada", subject: "7 shares of yours need a word", text: "Poster.pdf" },
};

let sent: { path: string; method: string; body: never }[];
let answers: Record<string, unknown>;

beforeEach(() => {
  sent = [];
  const view: RulesView = { rules: lines, stopped: null, leftThisHour: 200 };
  answers = {
    "/api/rules": view,
    "/api/rules/try": trial,
    "/api/rules/preview": { preview, mails, pass: "a pass" },
    "/api/enforcing": {},
    "/api/stores": { stores: [{ id: "dock", name: "Loading Dock" }] },
    "/api/register/values": { values: [{ value: "Press", title: "Press" }] },
    "/api/waivers": { waivers: [waiver, { ...waiver, id: 5, isOver: true, itemName: null }] },
  };
  for (const id of RULE_IDS) answers[`/api/rules/${id}`] = { changes: [] };
  globalThis.fetch = (async (path: string, init: RequestInit = {}) => {
    const plain = path.split("?")[0];
    sent.push({ path, method: init.method ?? "GET", body: JSON.parse((init.body as string) ?? "null") as never });
    const answer = answers[plain];
    const refused = answer instanceof Error;
    return {
      ok: answer !== undefined && !refused,
      status: refused ? 400 : 200,
      json: async () => (refused ? { error: answer.message } : (answer ?? {})),
    };
  }) as never;
});

function show(screen: ReactNode, { mayChange = true, past = null as string | null, query = "" } = {}) {
  render(
    <NuqsTestingAdapter searchParams={query}>
      <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
        <StandpointContext value={{ viewer: { name: "Imre", address: "imre@home.example", mayChange }, now: T, past }}>
          {screen}
        </StandpointContext>
      </QueryClientProvider>
    </NuqsTestingAdapter>,
  );
}
const told = (path: string, method: string) =>
  sent.filter((one) => one.path === path && one.method === method).map(({ body }) => body);

test("each rule is a sentence with what it finds and what becomes of it", async () => {
  show(<RulesScreen />);
  expect(await screen.findByRole("button", { name: /^Open links end within 30 days\. ?7 ?observe$/ })).toBeTruthy();
  expect(screen.getByRole("button", { name: /^Each link has a password of its own\. ?off$/ })).toBeTruthy();
  expect(await screen.findByText("16 shares by the days until they end")).toBeTruthy();
  expect(screen.getByRole("img").getAttribute("aria-label")).toBe(
    "By the days until they end. 0 to 3: 0 of 4 break it; No end: 12 of 12 break it",
  );
  expect(screen.getByRole("link", { name: "7 findings with its current settings" }).getAttribute("href")).toBe(
    "/register?q=rule%3Aopen-expiry",
  );
});

test("a slot that is turned is tried at once, and set only when that is said", async () => {
  show(<RulesScreen />);
  fireEvent.change(await screen.findByLabelText("Days"), { target: { value: "14" } });
  await waitFor(() =>
    expect(told("/api/rules/try", "POST")).toContainEqual(
      expect.objectContaining({ parameters: expect.objectContaining({ maxDays: 14 }) }),
    ),
  );
  expect(told("/api/rules/open-expiry", "PUT")).toEqual([]);
  fireEvent.click(screen.getByRole("button", { name: "Save the rule" }));
  await waitFor(() => expect(told("/api/rules/open-expiry", "PUT")).toHaveLength(1));
  const [body] = told("/api/rules/open-expiry", "PUT") as unknown as [{ setting: { parameters: object }; pass: null }];
  expect([body.setting.parameters, body.pass]).toEqual([{ maxDays: 14, severity: "high" }, null]);
});

test("a stricter mode is set only past its preview, and not if it is turned again after that", async () => {
  show(<RulesScreen />);
  fireEvent.click(await screen.findByRole("radio", { name: /^Ask\./ }));
  fireEvent.click(screen.getByRole("button", { name: "Preview what that would do" }));
  expect(
    await screen.findByText(/12 shares get an end date\. 1 finding can only be fixed by hand\. 2 insiders would lose/),
  ).toBeTruthy();
  fireEvent.change(screen.getByLabelText("Grace period in days"), { target: { value: "7" } });
  fireEvent.click(screen.getByRole("button", { name: "Preview what that would do" }));
  fireEvent.click(await screen.findByRole("button", { name: "Save and ask" }));
  await waitFor(() =>
    expect(told("/api/rules/open-expiry", "PUT")).toEqual([
      { setting: { ...settings["open-expiry"], mode: "ask", graceDays: 7 }, pass: "a pass" },
    ]),
  );
});

test("where it runs is the rest of its sentence", async () => {
  show(<RulesScreen />);
  fireEvent.click(await screen.findByRole("button", { name: "Stores it applies to: every store" }));
  fireEvent.click(await screen.findByRole("checkbox", { name: "Loading Dock" }));
  expect(screen.getByRole("button", { name: "Stores it applies to: Loading Dock", hidden: true })).toBeTruthy();
  await waitFor(() =>
    expect(told("/api/rules/try", "POST").at(-1)).toMatchObject({ parameters: { scope: { stores: ["dock"] } } }),
  );
});

test("labels are chosen, and what the server refuses is said in its words", async () => {
  answers["/api/rules/open-forbidden"] = new Error("scope: Nobody is in Choir. Nothing was changed.");
  show(<RulesScreen />, { query: "?rule=open-forbidden" });
  fireEvent.click(await screen.findByRole("button", { name: "Labels: restricted" }));
  fireEvent.click(await screen.findByRole("checkbox", { name: "confidential" }));
  fireEvent.keyDown(document.activeElement!, { key: "Escape" });
  fireEvent.click(screen.getByRole("button", { name: "Save the rule", hidden: true }));
  expect(await screen.findByText("scope: Nobody is in Choir. Nothing was changed.")).toBeTruthy();
});

test("whoever may only look, or looks at the past, turns nothing", async () => {
  show(<RulesScreen />, { mayChange: false });
  expect(await screen.findByText("16 shares by the days until they end")).toBeTruthy();
  for (const name of ["Save the rule", "Stop all enforcement", "Revert"])
    expect(screen.queryByRole("button", { name })).toBeNull();
  expect(screen.queryByLabelText("Days")).toBeNull();
});

test("while a rule is enforced all enforcing can be stopped, and let go on", async () => {
  const acting = lines.map((line) => (line.id === "dormant" ? { ...line, mode: "enforce" as const } : line));
  answers["/api/rules"] = { rules: acting, stopped: null, leftThisHour: 120 };
  show(<RulesScreen />);
  fireEvent.click(await screen.findByRole("button", { name: "Stop all enforcement" }));
  answers["/api/rules"] = {
    rules: acting,
    stopped: { by: "imre@home.example", at: "2026-10-05T08:00:00Z" },
    leftThisHour: 0,
  };
  expect(await screen.findByText("Stopped 5 Oct 2026, 08:00 by imre@home.example")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Allow rules to enforce again" }));
  await waitFor(() => expect(told("/api/enforcing", "POST")).toEqual([{ isStopped: true }, { isStopped: false }]));
});

describe("the waivers", () => {
  test("are all told, and those that hold can be ended together", async () => {
    show(<WaiversScreen />);
    expect(await screen.findByText("1 active, 1 ended")).toBeTruthy();
    expect(screen.getByText("A share that no longer exists")).toBeTruthy();
    fireEvent.click(screen.getByRole("checkbox", { name: "Mark the waiver for Poster.pdf" }));
    fireEvent.click(screen.getByRole("button", { name: "End 1 waiver now" }));
    await waitFor(() => expect(told("/api/waivers", "DELETE")).toEqual([{ ids: [4] }]));
  });

  test("are shown to an auditor, who ends none", async () => {
    show(<WaiversScreen />, { mayChange: false });
    expect(await screen.findByText("Poster.pdf")).toBeTruthy();
    expect(screen.queryByRole("checkbox")).toBeNull();
  });
});

test("sentences, slots and modes in words", () => {
  expect(ruleSentence("open-forbidden", { labels: ["confidential", "restricted"] })).toBe(
    "No open link leads to confidential or restricted items.",
  );
  expect([slotWords([]), slotWords(["a"]), slotWords(["a", "b", "c"]), slotWords(9)]).toEqual([
    "no",
    "a",
    "a, b or c",
    "9",
  ]);
  const setting = settings["open-expiry"];
  expect([
    modeWords({ ...setting, isOn: false }),
    modeWords(setting),
    modeWords({ ...setting, mode: "enforce", graceDays: 1 }),
  ]).toEqual(["off", "observe", "enforce, 1 day of grace"]);
});

test("before a rule asks, the mails it would send are shown; it can begin with a few owners", async () => {
  show(<RulesScreen />);
  fireEvent.click(await screen.findByRole("radio", { name: /^Ask/ }));
  fireEvent.click(screen.getByLabelText("Ask only some owners first"));
  fireEvent.click(screen.getByRole("button", { name: "Preview what that would do" }));
  expect(await screen.findByText("5 mails will be sent, one to each owner.")).toBeTruthy();
  expect(
    screen.getByText(/4 more owners wait until you ask everyone\. 2 findings have nobody responsible/),
  ).toBeTruthy();
  expect(screen.getByText("7 shares of yours need a word")).toBeTruthy();
  expect(screen.getByText("And 8 more owners.")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Save and ask" }));
  await waitFor(() => expect(told("/api/rules/open-expiry", "PUT")).toHaveLength(1));
  expect(told("/api/rules/open-expiry", "PUT")).toMatchObject([{ setting: { mode: "ask", pilot: 5 }, pass: "a pass" }]);
});

test("a rule that was turned keeps its draft while another is looked at, and the list says so", async () => {
  show(<RulesScreen />);
  fireEvent.click(await screen.findByRole("radio", { name: /^Enforce/ }));
  fireEvent.click(screen.getByRole("button", { name: /^Each link has a password of its own/ }));
  await waitFor(() => expect(screen.getByRole<HTMLInputElement>("checkbox", { name: "On" }).checked).toBe(false));
  fireEvent.click(screen.getByRole("button", { name: /^Open links end within 30 days.*not saved$/ }));
  expect((await screen.findByRole<HTMLInputElement>("radio", { name: /^Enforce/ })).checked).toBe(true);
});
