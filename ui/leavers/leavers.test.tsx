import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { NuqsTestingAdapter } from "nuqs/adapters/testing";
import type { ReactNode } from "react";
import type { LeaverTold } from "@/contract/leavers";
import type { LeaverSheet } from "@/core/leavers/sheet";
import { DAY } from "@/core/time/instant";
import { T } from "@/tests/records";
import { StandpointContext } from "../frame/viewer";
jest.mock("next/navigation", () => ({ useRouter: () => ({ push: jest.fn() }) }));

import { LeaverScreen } from "./LeaverScreen";
import { LeaversScreen } from "./LeaversScreen";

const who = { address: "gus@home.example", name: "Gus", department: "Press", status: "left" as const };
const none = { owned: 0, links: 0, grants: 0, groups: 0 };
const standing = { since: null, lastDay: null };
const sheet: LeaverSheet = {
  leaver: { ...who, since: T - 9 * DAY, lastDay: null },
  heir: { address: "ida@home.example", name: "Ida", as: "head" },
  owned: [{ id: "f", name: "Rider", kind: "file", label: "restricted", place: ["Stacks", "Touring"] }],
  ownedCount: 12,
  links: [
    {
      ...{ id: "l1", item: "Rider", place: ["Stacks"], sentence: "Anyone can look." },
      ...{ suggested: { suggest: "end", until: null, because: [] }, ways: [] },
    },
    {
      ...{ id: "l2", item: "Plan", place: ["Stacks"], sentence: "Two people can look.", suggested: null },
      ways: [{ key: "view", words: "Look only", changes: [{ action: "set-role", shareId: "l2", role: "view" }] }],
    },
  ],
  held: 3,
};
const told: LeaverTold = { sheet, own: { waivers: 0, watches: 0 }, lastDay: null };
const withSheet = (changed: Partial<LeaverSheet>): LeaverTold => ({ ...told, sheet: { ...sheet, ...changed } });
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

const pageOf = (page: object[]) => ({ total: 3, found: page.length, page, problems: [] });

test("the list says since when, and how many days things have been left standing", async () => {
  answers["/api/leavers"] = pageOf([
    { ...who, ...{ address: "may@home.example", name: "May", status: "active" }, lastDay: T + DAY, ...none },
    { ...who, since: T - 9 * DAY, lastDay: null, ...none, owned: 12 },
    { ...who, ...{ address: "off@home.example", name: "Off", status: "suspended" }, ...standing, ...none, groups: 1 },
  ]);
  show(<LeaversScreen />);
  expect(await screen.findByText(/, 9 days ago$/)).toBeTruthy();
  expect(screen.getByText("Suspended")).toBeTruthy();
  const going = screen.getByRole("region", { name: "Leaving" });
  expect(within(going).getByText(/, in 1 day$/)).toBeTruthy();
  expect(within(going).queryByText("Gus")).toBeNull();
  expect(screen.getByRole<HTMLAnchorElement>("link", { name: "Gus" }).getAttribute("href")).toBe(
    "/people/leaver?address=gus%40home.example",
  );
});

test("a query that finds nobody says so, and where nobody leaves the list says that", async () => {
  answers["/api/leavers"] = pageOf([]);
  show(<LeaversScreen />);
  expect(await screen.findByText(/No leavers match\. Remove a part of the query\./)).toBeTruthy();
  expect(screen.getByRole("link", { name: "Export CSV" }).getAttribute("href")).toMatch(/^\/api\/leavers\/file/);
});

test("the sheet stages what is chosen for each link, then what they hold, then what they own: as one docket", async () => {
  answers["/api/leavers/one"] = told;
  show(<LeaverScreen />);
  expect(await screen.findByText(/Ida is the head of their department/)).toBeTruthy();
  const links = screen.getByRole("region", { name: "Links they made" });
  const choices = within(links).getAllByRole<HTMLSelectElement>("combobox");
  expect(choices.map(({ value }) => value)).toEqual(["end", "keep"]);
  fireEvent.click(screen.getByRole("button", { name: "End all" }));
  fireEvent.change(choices[1], { target: { value: "view" } });
  fireEvent.click(screen.getByRole("button", { name: "Add all of it to the docket" }));
  const address = "gus@home.example";
  await waitFor(() =>
    expect(staged).toEqual([
      {
        changes: [
          { action: "revoke", shareId: "l1" },
          { action: "set-role", shareId: "l2", role: "view" },
          { action: "cut-off", address },
          { action: "hand-over-all", from: address, address: "ida@home.example" },
        ],
      },
    ]),
  );
});

test("what they set going here is ended by itself, as it was shown", async () => {
  answers["/api/leavers/one"] = { ...told, own: { waivers: 2, watches: 1 } };
  show(<LeaverScreen />);
  expect(await screen.findByText(/2 waivers and 1 watch of theirs go on/)).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "End them now" }));
  await waitFor(() => expect(staged).toEqual([{ address: "gus@home.example", waivers: 2, watches: 1 }]));
});

test("of somebody who is still here it says when they leave, and that nothing should be applied before", async () => {
  const leaver = { ...who, status: "active" as const, since: null, lastDay: T + 3 * DAY };
  const lastDay = { at: T + 3 * DAY, reason: "Told by mail", setBy: "ada@home.example", setAt: T };
  answers["/api/leavers/one"] = { ...withSheet({ leaver }), lastDay };
  show(<LeaverScreen />);
  expect(await screen.findByText(/in 3 days/)).toBeTruthy();
  expect(screen.getByText(/Told by mail/)).toBeTruthy();
  expect(screen.getByText(/apply it after their last day/)).toBeTruthy();
});

test("without anybody to hand over to it says so", async () => {
  answers["/api/leavers/one"] = withSheet({ heir: null });
  show(<LeaverScreen />);
  expect(await screen.findByText(/Without a new owner, their items stay as they are\./)).toBeTruthy();
});

test("an auditor reads it and changes nothing", async () => {
  answers["/api/leavers/one"] = told;
  show(<LeaverScreen />, { mayChange: false });
  await screen.findByText("Made 2 live links");
  expect(screen.queryAllByRole("button").map(({ textContent }) => textContent)).toEqual(["Print"]);
  expect(screen.queryAllByRole("checkbox")).toEqual([]);
});

test("where nothing is left the sheet says so", async () => {
  answers["/api/leavers/one"] = withSheet({ owned: [], ownedCount: 0, links: [], held: 0 });
  show(<LeaverScreen />);
  expect(await screen.findByText(/Nothing is left: they own nothing/)).toBeTruthy();
  expect(screen.queryByRole("button", { name: /to the docket/ })).toBeNull();
});
