import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { NuqsTestingAdapter } from "nuqs/adapters/testing";
import type { Touched } from "@/contract/shortlist";
import type { ActGroup } from "@/core/advice/groups";
import type { Curve, PointView } from "@/core/advice/view";
import { STANDARD_WEIGHING } from "@/core/advice/weighing";
import { T } from "@/tests/records";
import { StandpointContext } from "../frame/viewer";
import { ShortlistScreen } from "./ShortlistScreen";
import { closesWords, groupRemarks, groupTitle, percentWords, usedByWords } from "./words";

// The curve is drawn by Chart.js on a canvas, which there is none of here; its words are what is asked for.
jest.mock("chart.js", () => ({
  Chart: class {
    static register() {}
    destroy() {}
  },
}));

const curve: Curve = {
  title: "everything",
  mass: 1_000,
  files: 300,
  points: [
    { changes: 0, price: 0, left: 1_000, byRisk: 1_000 },
    { changes: 6, price: 18, left: 700, byRisk: 950 },
    { changes: 40, price: 60, left: 390, byRisk: 800 },
    { changes: 400, price: 900, left: 4, byRisk: 100 },
  ],
  bend: 2,
};
const group: ActGroup = {
  key: "end-open",
  act: "end",
  opening: "open",
  isUsed: false,
  isRunning: false,
  changes: 21,
  price: 21,
  together: 14,
  takes: 380,
};
const point = (at: number): PointView => ({
  ...curve.points[at],
  groups: at === 0 ? [] : [group],
  files: { shut: 120, lessOpen: 130, open: 300 },
  used: 3,
  running: 0,
  next: at === 3 ? null : { ...curve.points[at + 1], first: { shareId: "s", itemName: "Season brochure", act: "end" } },
  digest: String(at).repeat(64),
});
const touched: Touched = {
  lately: { people: 3, unnamed: 1 },
  losing: { outsiders: 7, insiders: 0, organisations: 2 },
};

let sent: { path: string; method: string; body: unknown }[];
let refused: string | null;

beforeEach(() => {
  [sent, refused] = [[], null];
  globalThis.fetch = (async (path: string, init: RequestInit = {}) => {
    const { pathname, searchParams } = new URL(path, "http://latch.example");
    const method = init.method ?? "GET";
    sent.push({ path: pathname, method, body: init.body && JSON.parse(init.body as string) });
    if (method !== "GET" && refused) return { ok: false, status: 409, json: async () => ({ error: refused }) };
    const at = curve.points.findIndex(({ changes }) => changes === Number(searchParams.get("changes")));
    const answers: Record<string, unknown> = {
      "/api/shortlist": { ...curve, title: searchParams.get("scope") === "everything" ? "everything" : "Stacks" },
      "/api/shortlist/point": point(at),
      "/api/shortlist/touched": touched,
      "/api/shortlist/weighing": { weighing: STANDARD_WEIGHING },
      "/api/shortlist/stage": { unknown: [], left: {} },
      "/api/stores": { stores: [{ id: "stacks", name: "Stacks", records: {}, lastReadAt: null, lastError: null }] },
      "/api/register/values": { values: [] },
      "/api/tray": { docketId: null, changes: [], preview: null, digest: null, name: null, running: null },
    };
    return { ok: true, status: 200, json: async () => answers[pathname] ?? {} };
  }) as never;
});

function show({ query = "", mayChange = true, past = null as string | null } = {}) {
  render(
    <NuqsTestingAdapter searchParams={query} hasMemory>
      <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
        <StandpointContext value={{ viewer: { name: "Imre", address: "imre@home.example", mayChange }, now: T, past }}>
          <ShortlistScreen />
        </StandpointContext>
      </QueryClientProvider>
    </NuqsTestingAdapter>,
  );
}
const heading = (name: string | RegExp) => screen.findByRole("heading", { level: 1, name });

test("it opens where the curve bends, and says what that shuts, whom it touches, and what isn't worth it yet", async () => {
  show();
  await heading("40 changes shut 61 % of what is open");
  expect(await screen.findByText("End 21 open links unused for 45 days")).toBeTruthy();
  expect(screen.getByText("14 of them close something only in combination.")).toBeTruthy();
  expect(await screen.findByText("people of 2 organisations lose some access by name")).toBeTruthy();
  expect(screen.getByText("people used any of it in 45 days; 1 share also by somebody unnamed")).toBeTruthy();
  expect(screen.getByRole("region", { name: "Not worth it yet" }).textContent).toContain(
    "The next 360 changes would shut 39 % more, at a price of 840; first: end a share of Season brochure.",
  );
});

test("the handle goes from point to point by keys, and not past the ends", async () => {
  show({ query: "?changes=6" });
  await heading("6 changes shut 30 % of what is open");
  const handle = screen.getByRole("slider", { name: "How many changes" });
  expect(handle.getAttribute("aria-valuetext")).toBe("6 changes at a price of 18: 70 % stays open");
  fireEvent.keyDown(handle, { key: "ArrowRight" });
  await heading("40 changes shut 61 % of what is open");
  fireEvent.keyDown(handle, { key: "End" });
  fireEvent.keyDown(handle, { key: "ArrowRight" });
  await heading("400 changes shut over 99 % of what is open");
  fireEvent.keyDown(handle, { key: "Home" });
  await heading("No changes yet: everything stays open");
  expect(screen.queryByRole("button", { name: /to the docket/ })).toBeNull();
});

test("what is shown is staged by its digest; where it is refused, the reason is shown and the curve asked anew", async () => {
  show();
  fireEvent.click(await screen.findByRole("button", { name: "Add 40 changes to the docket" }));
  expect(await screen.findByText(/^They are in the docket/)).toBeTruthy();
  expect(sent.find(({ method }) => method === "POST")).toEqual({
    path: "/api/shortlist/stage",
    method: "POST",
    body: { scope: "everything", changes: 40, digest: "2".repeat(64) },
  });
  refused = "The estate has changed since.";
  const asked = () => sent.filter(({ path }) => path === "/api/shortlist").length;
  const before = asked();
  fireEvent.click(screen.getByRole("button", { name: "Add 40 changes to the docket" }));
  expect((await screen.findByRole("alert")).textContent).toBe(refused);
  await waitFor(() => expect(asked()).toBeGreaterThan(before));
});

test("whoever may not change anything is offered neither", async () => {
  show({ mayChange: false });
  await screen.findByText("End 21 open links unused for 45 days");
  expect(screen.queryByRole("button", { name: /to the docket/ })).toBeNull();
  expect(screen.queryByRole("spinbutton")).toBeNull();
});

test("a scope is chosen in the sentence", async () => {
  show();
  fireEvent.click(await screen.findByRole("button", { name: "Scope: everything" }));
  fireEvent.click(await screen.findByRole("button", { name: "Stacks" }));
  expect(await screen.findByRole("button", { name: "Scope: Stacks" })).toBeTruthy();
});

test("a weight is turned and saved; one that isn't the standard says what that is, and a wrong price what is wrong", async () => {
  show();
  const weight = await screen.findByRole("spinbutton", { name: "What a restricted file weighs" });
  fireEvent.change(weight, { target: { value: "20" } });
  expect(screen.getByText("(standard 16)")).toBeTruthy();
  const password = screen.getByRole("spinbutton", { name: "Price of a password" });
  fireEvent.change(password, { target: { value: "3" } });
  expect(screen.getByRole("alert").textContent).toContain("A password can't cost more than ending the link");
  fireEvent.change(password, { target: { value: "1" } });
  fireEvent.click(screen.getByRole("button", { name: "Save for everybody" }));
  await waitFor(() => expect(sent.some(({ method }) => method === "PUT")).toBe(true));
  expect(sent.find(({ method }) => method === "PUT")!.body).toEqual({
    ...STANDARD_WEIGHING,
    weights: { ...STANDARD_WEIGHING.weights, restricted: 20 },
  });
});

test("in the past it is said that it is told of now only", () => {
  show({ past: "2026-06-01T12:00:00Z" });
  expect(screen.getByRole("status").textContent).toContain("This screen only shows the present.");
});

test.each([
  [0, 0, "0 %"],
  [1, 1_000, "under 1 %"],
  [615, 1_000, "62 %"],
  [999, 1_000, "over 99 %"],
  [5, 5, "100 %"],
])("%d of %d is %s", (part, whole, words) => {
  expect(percentWords(part, whole)).toBe(words);
});

test("groups and lines say what they are in plain words", () => {
  const locked = { ...group, act: "password" as const, changes: 1, isUsed: true, isRunning: true, together: 1 };
  expect(groupTitle(locked, 45)).toBe("Give a password to 1 open link of running projects, used in the last 45 days");
  expect(groupRemarks(locked)).toBe(
    "Whoever opens it will need the passphrase. It closes something only in combination.",
  );
  const line = { files: 3, others: [{ shareId: "a", words: "Rider: Anyone" }], othersCount: 3 } as never;
  expect(closesWords(line)).toBe("Closes 3 files together with Rider: Anyone and 2 others.");
  expect(closesWords({ files: 1, others: [], othersCount: 0 } as never)).toBe("Closes 1 file by itself.");
  expect(usedByWords({ names: ["Odo", "Ivo"], people: 3, unnamed: true }, true, 45)).toBe(
    "Used in the last 45 days by Odo, Ivo, 1 other and somebody the store doesn’t name.",
  );
  expect(usedByWords({ names: [], people: 0, unnamed: false }, false, 45)).toBe("Nobody used it in the last 45 days.");
});
