import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { NuqsTestingAdapter } from "nuqs/adapters/testing";
import type { ReactNode } from "react";
import type { DeciderView, RoundLine, RoundView } from "@/contract/rounds";
import { DAY, rfc3339 } from "@/core/time/instant";
import { T } from "@/tests/records";
import { StandInsPart } from "../estate/StandInsPart";
import { StandpointContext } from "../frame/viewer";
import { LookScreen } from "./LookScreen";
import { MakeRoundScreen } from "./MakeRoundScreen";
import { RoundScreen } from "./RoundScreen";
import { RoundsScreen } from "./RoundsScreen";
import { countsWords, orderWords, roundGroups, undecidedWords } from "./words";

const pushed = jest.fn();
jest.mock("next/navigation", () => ({ useRouter: () => ({ push: pushed }) }));

const counts = { open: 3, kept: 4, tightened: 2, ended: 1, gone: 0, lapsed: 0 };
const row: RoundLine = {
  ...{ id: 1, name: "Open links", state: "open", opens: T, closes: T + 9 * DAY, repeats: null },
  ...{ lines: 10, counts, deciders: 3, late: 2 },
};
const view: RoundView = {
  ...row,
  asked: {
    ...{ name: "Open links", note: "", query: "reach:open", order: ["owner", "manager"], named: null, by: "share" },
    ...{ opens: rfc3339(T), closes: rfc3339(T + 9 * DAY), limitDays: 180, undecided: "end-date", undecidedDays: 30 },
    ...{ carriedOut: "finished", tellManagers: false, repeat: null, zone: "UTC" },
  },
  ...{
    repeatWords: null,
    madeBy: "ada@home.example",
    openedAt: T,
    closedAt: null,
    endedBy: null,
    hash: "ab".repeat(32),
  },
  ...{ docketId: null, nobodys: 1, changed: 1, passed: 2, next: null, mails: [], looks: [] },
  departments: [
    { department: "", lines: 1, decided: 0 },
    { department: "Press", lines: 9, decided: 7 },
  ],
  before: { id: 7, closed: T - 90 * DAY, lines: 14, counts },
};
const decider: DeciderView = {
  ...{ address: "ida@home.example", name: "Ida", department: "Press", counts, lines: 10, finished: null, written: T },
  quality: { overruled: 4, medianSeconds: 1.4, isUnlooked: true },
};
let sent: { path: string; method: string; body: unknown }[];
let answers: Record<string, unknown>;

beforeEach(() => {
  [sent, answers] = [[], {}];
  pushed.mockReset();
  globalThis.fetch = (async (path: string, { method, body }: RequestInit) => {
    sent.push({ path, method: method ?? "GET", body: body ? JSON.parse(body as string) : undefined });
    const answer = answers[path.split("?")[0]] ?? STANDARD[path.split("?")[0]];
    return answer instanceof Error
      ? { ok: false, status: 409, json: async () => ({ error: answer.message }) }
      : { ok: true, json: async () => answer ?? {} };
  }) as never;
});
const STANDARD: Record<string, unknown> = {
  "/api/rounds/one/1": view,
  "/api/rounds/one/1/deciders": { total: 1, deciders: [decider] },
  "/api/rounds/one/1/lines": { total: 0, lines: [] },
  "/api/rounds/forecast": {
    lines: 185,
    deciders: 84,
    nobodys: 3,
    most: [{ address: "ida@home.example", name: "Ida", lines: 8 }],
  },
};

function show(children: ReactNode, { mayChange = true, search = "" } = {}) {
  const viewer = { name: "Ada", address: "ada@home.example", mayChange };
  return render(
    <NuqsTestingAdapter searchParams={search} hasMemory>
      <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
        <StandpointContext value={{ viewer, now: T, past: null }}>{children}</StandpointContext>
      </QueryClientProvider>
    </NuqsTestingAdapter>,
  );
}
const posted = (path: string) =>
  sent.filter((one) => one.path === path && one.method !== "GET").map(({ body }) => body);
const press = (name: string | RegExp) => fireEvent.click(screen.getByRole("button", { name }));

test("the states of a round are told in words, what is still to do last; rounds go by what they need", () => {
  expect(countsWords(counts)).toBe("4 kept, 2 tightened, 1 ended, 3 to decide");
  expect(orderWords(["owner", "named"], "ida@home.example")).toBe("the item’s owner, else ida@home.example");
  expect(undecidedWords("end-date", 1)).toBe("gets an end date in 1 day");
  const all: RoundLine[] = [{ ...row, state: "closed" }, row, { ...row, state: "planned" }];
  expect(roundGroups(all).map(([title]) => title)).toEqual(["Open now", "Upcoming", "Over"]);
});

test("the list says how far each is, who is late, and where there is none, what to begin with", async () => {
  answers["/api/rounds"] = [row];
  const { unmount } = show(<RoundsScreen />);
  expect(await screen.findByText(/10 shares, 3 people decide. 2 people still to decide./)).toBeTruthy();
  unmount();
  answers["/api/rounds"] = [];
  show(<RoundsScreen />, { mayChange: false });
  expect(await screen.findByText(/There are no rounds yet\. A good first one: ask owners about/)).toBeTruthy();
  expect(screen.queryByRole("link", { name: "New round" })).toBeNull();
});

test("making one says who would be asked; what is sent is what stands there", async () => {
  answers["/api/rounds"] = { id: 5 };
  show(<MakeRoundScreen />, { search: "?name=Open+links&q=reach:open&undecided=end&by=person" });
  expect(await screen.findByText("185 shares, decided by 84 people.")).toBeTruthy();
  expect(screen.getByText(/For 3 shares there is nobody to ask/)).toBeTruthy();
  press("Open the round");
  await waitFor(() => expect(pushed).toHaveBeenCalledWith("/rounds/5"));
  expect(posted("/api/rounds")).toMatchObject([
    {
      ...{ name: "Open links", query: "reach:open", by: "person", undecided: "end", repeat: null, named: null },
      ...{ opens: rfc3339(T), closes: "2026-10-19T23:59:59Z", order: ["owner", "space-owner", "manager"] },
    },
  ]);
});

test("who is asked is put in order in a slot, and a refusal says why", async () => {
  answers["/api/rounds"] = new Error("Ask: name the person who decides.");
  show(<MakeRoundScreen />, { search: "?name=Open+links" });
  press(/Who is asked/);
  press("Then ask a named person");
  fireEvent.click(await screen.findByRole("button", { name: "Ask the owner’s manager earlier" }));
  press("Don’t ask the item’s owner");
  press("Open the round");
  expect((await screen.findByRole("alert")).textContent).toContain("name the person");
  expect(posted("/api/rounds")).toMatchObject([{ order: ["manager", "space-owner", "named"], named: "" }]);
});

test("a round’s page: its states, who decides how carefully, by department, and how it compares", async () => {
  show(<RoundScreen id="1" />);
  expect(await screen.findByText("Decided suspiciously fast.")).toBeTruthy();
  expect(screen.getByText(/4 suggestions overruled. Median 1 s a line./)).toBeTruthy();
  expect(screen.getByText(/2 passed on/).textContent).toBe(
    "10 shares; 2 passed on; 1 changed since, asked again; 1 left to administrators because nobody else can decide. Report",
  );
  expect(screen.getByText(/last time/).closest("p")!.textContent).toContain("14 shares: 4 fewer now");
  expect(screen.getByText("7 of 9 decided")).toBeTruthy();
  expect(screen.getByText(/10 shares matched when the round opened; 10 lines are listed here/)).toBeTruthy();
});

test("people are reminded; lines handed over; it is extended, closed early and stopped after a question", async () => {
  answers["/api/rounds/one/1/remind"] = { people: 2 };
  answers["/api/rounds/one/1/hand-over"] = { moved: 2, not: [{ shareId: "s", why: "They may not." }] };
  show(<RoundScreen id="1" />);
  fireEvent.click(await screen.findByRole("button", { name: "Remind 2 people" }));
  expect(await screen.findByText(/2 people get a mail/)).toBeTruthy();
  fireEvent.click(await screen.findByRole("button", { name: "Hand over…" }));
  fireEvent.change(screen.getByLabelText("Hand over to"), { target: { value: "ivo@home.example" } });
  fireEvent.change(screen.getByLabelText("Why"), { target: { value: "On leave" } });
  press("Hand over undecided shares");
  expect(await screen.findByText(/2 shares handed over. 1 stay: They may not./)).toBeTruthy();
  press("Extend…");
  press("Extend");
  await waitFor(() => expect(posted("/api/rounds/one/1/extend")).toEqual([{ closes: "2026-10-21T23:59:59Z" }]));
  press("Close early…");
  expect(screen.getByText(/3 shares undecided: each gets an end date in 30 days./)).toBeTruthy();
  expect(posted("/api/rounds/one/1/close")).toEqual([]);
  press("Close the round");
  await waitFor(() => expect(posted("/api/rounds/one/1/close")).toHaveLength(1));
  press("Stop…");
  press("Stop the round");
  await waitFor(() => expect(posted("/api/rounds/one/1/stop")).toHaveLength(1));
});

test("a second look says how many are drawn, and tells nothing of the first decision", async () => {
  answers["/api/rounds/one/1/looks"] = { id: 3 };
  show(<RoundScreen id="1" />);
  // Of four kept ones at five in a hundred, one is bad: all four have to be seen for 95 %.
  fireEvent.click(await screen.findByRole("button", { name: "Draw a sample of 4 shares" }));
  await waitFor(() => expect(pushed).toHaveBeenCalledWith("/rounds/1/looks/3"));
  expect(posted("/api/rounds/one/1/looks")).toEqual([{ percent: 5, confidence: 950 }]);
});

test("a look’s lines are decided again one by one", async () => {
  const look = {
    id: 3,
    percent: 5,
    confidence: 950,
    seed: "00ff",
    of: 4,
    size: 1,
    decided: 0,
    differ: 0,
    madeBy: "ada",
    madeAt: T,
  };
  const line = { shareId: "s", itemName: "Rider", place: "Stacks", sentence: "Anyone can look at it.", suggest: "end" };
  answers["/api/rounds/looks/3"] = { look, lines: [{ ...line, reasons: ["Dormant"], lastUsed: null, decision: null }] };
  show(<LookScreen round="1" look="3" />);
  const buttons = await screen.findByRole("group", { name: "Decide about Rider again" });
  fireEvent.click(within(buttons).getByRole("button", { name: "End" }));
  await waitFor(() => expect(posted("/api/rounds/looks/3/decide")).toEqual([{ shares: ["s"], decision: "end" }]));
});

test("heads and deputies are set under Estate", async () => {
  answers["/api/rounds/stand-ins"] = {
    heads: [{ department: "Press", person: null, name: null }],
    deputies: [{ id: 4, person: "ida@home.example", deputy: "ivo@home.example", from: T, until: T + DAY }],
  };
  show(<StandInsPart />);
  fireEvent.click(await screen.findByRole("button", { name: "Set the head of Press" }));
  fireEvent.change(screen.getByLabelText(/Address of the head of Press/), { target: { value: "ida@home.example" } });
  press("Save");
  await waitFor(() =>
    expect(posted("/api/rounds/heads")).toEqual([{ department: "Press", person: "ida@home.example" }]),
  );
  press("End it");
  await waitFor(() =>
    expect(sent.some(({ path, method }) => path === "/api/rounds/deputies/4" && method === "DELETE")).toBe(true),
  );
  press("Add a deputy…");
  fireEvent.change(screen.getByLabelText("In place of"), { target: { value: "oda@home.example" } });
  fireEvent.change(screen.getByLabelText("Address of the deputy"), { target: { value: "ida@home.example" } });
  press("Save");
  await waitFor(() =>
    expect(posted("/api/rounds/deputies")).toMatchObject([{ person: "oda@home.example", deputy: "ida@home.example" }]),
  );
});
