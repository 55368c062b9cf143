import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { NuqsTestingAdapter } from "nuqs/adapters/testing";
import type { ReactNode } from "react";
import type { LeaverSheet } from "@/core/leavers/sheet";
import { DAY } from "@/core/time/instant";
import { T } from "@/tests/records";
import { StandpointContext } from "../frame/viewer";
import { LeaverScreen } from "./LeaverScreen";
import { LeaversScreen } from "./LeaversScreen";

const who = { address: "gus@home.example", name: "Gus", department: "Press", status: "left" as const };
const sheet: LeaverSheet = {
  leaver: { ...who, leftAt: T - 9 * DAY },
  heir: { address: "ida@home.example", name: "Ida", as: "head" },
  owned: [{ id: "f", name: "Rider", kind: "file", label: "restricted", place: ["Stacks", "Touring"] }],
  ownedCount: 12,
  links: [
    {
      ...{ id: "l1", item: "Rider", place: ["Stacks"], sentence: "Anyone can look." },
      suggested: { suggest: "end", until: null, because: [] },
    },
    { id: "l2", item: "Plan", place: ["Stacks"], sentence: "Two people can look.", suggested: null },
  ],
  held: 3,
};
let answers: Record<string, unknown>;
let staged: unknown[];

beforeEach(() => {
  [answers, staged] = [{}, []];
  globalThis.fetch = (async (path: string, { method, body }: RequestInit) => {
    if (method === "POST") staged.push(JSON.parse(body as string));
    return { ok: true, status: 200, json: async () => answers[path.split("?")[0]] ?? {} };
  }) as never;
});

function show(children: ReactNode, { mayChange = true } = {}) {
  const viewer = { name: "Ada", address: "ada@home.example", mayChange };
  render(
    <NuqsTestingAdapter searchParams="?address=gus@home.example" hasMemory>
      <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
        <StandpointContext value={{ viewer, now: T, past: null }}>{children}</StandpointContext>
      </QueryClientProvider>
    </NuqsTestingAdapter>,
  );
}

test("the list says since when, and how many days things have been left standing", async () => {
  answers["/api/leavers"] = {
    leavers: [
      { ...who, leftAt: T - 9 * DAY, owned: 12, links: 2, held: 3 },
      {
        ...who,
        address: "off@home.example",
        name: "Off",
        status: "suspended",
        leftAt: null,
        owned: 0,
        links: 0,
        held: 1,
      },
    ],
  };
  show(<LeaversScreen />);
  expect(await screen.findByText(/, 9 days$/)).toBeTruthy();
  expect(screen.getByText("suspended")).toBeTruthy();
  expect(screen.getByRole<HTMLAnchorElement>("link", { name: "Gus" }).getAttribute("href")).toBe(
    "/people/leaver?address=gus%40home.example",
  );
});

test("the sheet stages what is marked, then what they hold, then what they own: as one docket", async () => {
  answers["/api/leavers/one"] = sheet;
  show(<LeaverScreen />);
  expect(await screen.findByText(/Ida is the head of their department/)).toBeTruthy();
  const boxes = screen.getAllByRole<HTMLInputElement>("checkbox");
  expect(boxes.map(({ checked }) => checked)).toEqual([true, false]);
  fireEvent.click(screen.getByRole("button", { name: "Mark all" }));
  fireEvent.click(boxes[0]);
  fireEvent.click(screen.getByRole("button", { name: "Stage all of it as one docket" }));
  const address = "gus@home.example";
  await waitFor(() =>
    expect(staged).toEqual([
      {
        changes: [
          { action: "revoke", shareId: "l2" },
          { action: "cut-off", address },
          { action: "hand-over-all", from: address, address: "ida@home.example" },
        ],
      },
    ]),
  );
});

test("without anybody to hand over to it says so", async () => {
  answers["/api/leavers/one"] = { ...sheet, heir: null };
  show(<LeaverScreen />);
  expect(await screen.findByText(/Without a new owner, what they own stays where it is/)).toBeTruthy();
});

test("an auditor reads it and changes nothing", async () => {
  answers["/api/leavers/one"] = sheet;
  show(<LeaverScreen />, { mayChange: false });
  await screen.findByText("Made 2 live links");
  expect(screen.queryAllByRole("button").map(({ textContent }) => textContent)).toEqual(["Print"]);
  expect(screen.queryAllByRole("checkbox")).toEqual([]);
});

test("where nothing is left the sheet says so", async () => {
  answers["/api/leavers/one"] = { ...sheet, owned: [], ownedCount: 0, links: [], held: 0 };
  show(<LeaverScreen />);
  expect(await screen.findByText(/Nothing is left: they own nothing/)).toBeTruthy();
  expect(screen.queryByRole("button", { name: /Stage/ })).toBeNull();
});
