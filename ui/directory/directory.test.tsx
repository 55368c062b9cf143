import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { NuqsTestingAdapter } from "nuqs/adapters/testing";
import type { ReactNode } from "react";
import { directoryOperations, type OutlookTold } from "@/contract/directory";
import type { PersonTold } from "@/core/directory/person";
import { DAY } from "@/core/time/instant";
import { T } from "@/tests/records";
import { StandpointContext } from "../frame/viewer";
import { DirectoryScreen } from "./DirectoryScreen";
import { PersonScreen } from "./PersonScreen";

jest.mock("next/navigation", () => ({ useRouter: () => ({ push: jest.fn() }) }));

const sources = {
  sources: [
    { name: "personnel", title: "personnel", kind: "directory", firstToldAt: "2026-10-01T08:00:00Z" },
    { name: "stacks", title: "The Stacks", kind: "store", firstToldAt: "2026-09-01T08:00:00Z" },
  ],
  leftAfterDays: 14,
};
const outlook: OutlookTold = {
  ...{ problems: [], remarks: [{ line: 4, message: "managers go round in a circle: a → b → a" }] },
  counts: { leaves: 1, same: 40 },
  turns: [{ address: "bo@home.example", name: "Bo", outcome: "leaves", words: "" }],
  ...{ joined: 2, gone: 0, brake: null, digest: "d1" },
};
let answers: Record<string, unknown>;
let sent: { path: string; method: string; body: Record<string, unknown> }[];

beforeEach(() => {
  sent = [];
  answers = { "/api/sources": sources, "/api/directories/look": outlook, "/api/directories/read": outlook };
  globalThis.fetch = (async (path: string, { method, body }: RequestInit) => {
    if (body) sent.push({ path, method: method!, body: JSON.parse(body as string) });
    return { ok: true, status: 200, json: async () => answers[path.split("?")[0]] ?? {} };
  }) as never;
});

function show(children: ReactNode, { mayChange = true } = {}) {
  const viewer = { name: "Ada", address: "ada@home.example", mayChange };
  render(
    <NuqsTestingAdapter searchParams="?address=bo@home.example" hasMemory>
      <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
        <StandpointContext value={{ viewer, now: T, past: null }}>{children}</StandpointContext>
      </QueryClientProvider>
    </NuqsTestingAdapter>,
  );
}

async function look(text: string) {
  const file = Object.assign(new File([text], "people.csv"), { text: async () => text });
  fireEvent.change(await screen.findByLabelText("File"), { target: { files: [file] } });
  const button = screen.getByRole<HTMLButtonElement>("button", { name: "Preview the changes" });
  await waitFor(() => expect(button.disabled).toBe(false));
  fireEvent.click(button);
}

test("a list is shown before it is read, and what is read is what was shown", async () => {
  expect(directoryOperations.lookAtList.answer.parse(outlook)).toEqual(outlook);
  show(<DirectoryScreen />);
  await look("address\nida@home.example\n");
  expect(await screen.findByText("1 person has left")).toBeTruthy();
  expect(screen.getByText(/40 people stay as told/)).toBeTruthy();
  expect(screen.getByText(/2 memberships begin/)).toBeTruthy();
  expect(screen.getByText(/go round in a circle/)).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Read the list" }));
  expect(await screen.findByText(/The list has been read, and recorded in the ledger\./)).toBeTruthy();
  const given = { directory: "personnel", kind: "people", file: "people.csv", text: "address\nida@home.example\n" };
  expect(sent.map(({ path, body }) => [path, body])).toEqual([
    ["/api/directories/look", given],
    ["/api/directories/read", { ...given, digest: "d1", inactive: null }],
  ]);
});

test("where many would be left inactive it takes a word that they really are, which goes along with their number", async () => {
  answers["/api/directories/look"] = { ...outlook, brake: { inactive: 31, active: 180 } };
  show(<DirectoryScreen />);
  await look("address\nida@home.example\n");
  const read = await screen.findByRole<HTMLButtonElement>("button", { name: "Read the list" });
  expect(read.disabled).toBe(true);
  fireEvent.click(screen.getByRole("checkbox", { name: /these 31 people are no longer active/ }));
  fireEvent.click(read);
  await waitFor(() => expect(sent.at(-1)?.body).toMatchObject({ digest: "d1", inactive: 31 }));
});

test("a list that can't be read says each line, and offers nothing to press", async () => {
  const problems = [{ line: 7, message: 'status "retired" must be one of active, suspended, left' }];
  answers["/api/directories/look"] = { ...outlook, problems, turns: [], counts: {} };
  show(<DirectoryScreen />);
  await look("address,status\nx,retired\n");
  expect(await screen.findByText(/status "retired" must be/)).toBeTruthy();
  expect(screen.getByText("line 7")).toBeTruthy();
  expect(screen.queryByRole("button", { name: "Read the list" })).toBeNull();
});

test("the order of belief is moved by buttons and saved as a whole", async () => {
  show(<DirectoryScreen />);
  fireEvent.click(await screen.findByRole("button", { name: "Move The Stacks up" }));
  fireEvent.click(screen.getByRole("button", { name: "Save the order" }));
  await waitFor(() =>
    expect(sent.at(-1)).toEqual({
      path: "/api/sources/order",
      method: "PUT",
      body: { order: ["stacks", "personnel"] },
    }),
  );
});

test("an auditor sees the order, and nothing to change it by", async () => {
  show(<DirectoryScreen />, { mayChange: false });
  expect(await screen.findByText("The Stacks")).toBeTruthy();
  expect(screen.queryAllByRole("button")).toEqual([]);
  expect(screen.getByText(/suspended for 14 days count as having left/)).toBeTruthy();
});

const bo: PersonTold = {
  ...{ address: "bo@home.example", name: "Bo", insider: true, organisation: "home.example", status: "active" },
  ...{ department: "Brass", manager: { name: "Ida", address: "ida@home.example" }, lastDay: T + 3 * DAY },
  said: [
    {
      ...{ source: "settings", name: "", status: null, department: null, manager: null, suspendedAt: null },
      ...{ lastDay: T + 3 * DAY, believed: ["leftAt"] },
    },
    {
      ...{ source: "personnel", name: "Bo", status: "active", department: "Brass", manager: null, lastDay: null },
      ...{ suspendedAt: null, believed: ["name", "status", "department"] },
    },
    {
      ...{ source: "stacks", name: "B.", status: "suspended", department: "Strings", manager: "ida@home.example" },
      ...{ lastDay: null, suspendedAt: null, believed: ["managerId"] },
    },
  ],
  groups: [
    { name: "Tour", store: "The Stacks" },
    { name: "Staff", store: null },
  ],
  manages: [],
};

test("a person's page has what every source says, and marks what is believed", async () => {
  answers["/api/insiders/one"] = bo;
  expect(directoryOperations.person.answer.parse(bo)).toEqual(bo);
  show(<PersonScreen />);
  const rows = within(await screen.findByRole("table"))
    .getAllByRole("row")
    .slice(1);
  expect(rows.map((row) => within(row).getByRole("rowheader").textContent)).toEqual([
    ...["set here", "personnel", "The Stacks"],
  ]);
  const believed = rows.map((row) => within(row).queryAllByText("(believed)").length);
  expect(believed).toEqual([1, 3, 1]);
  expect(screen.getByText("Tour (The Stacks) and Staff")).toBeTruthy();
  expect(screen.getByRole("link", { name: "What they leave behind" })).toBeTruthy();
});

test("whoever is known by an address alone is told so", async () => {
  answers["/api/insiders/one"] = { ...bo, said: [], lastDay: null };
  show(<PersonScreen />);
  expect(
    await screen.findByText(/No source describes them: only their address is known, from a share or an event\./),
  ).toBeTruthy();
  expect(screen.queryByRole("link", { name: "What they leave behind" })).toBeNull();
});

test("while a list is compared it is told how far it is, and that can be stopped", async () => {
  answers["/api/directories/now"] = {
    step: { words: "Comparing people with the directory", done: 1_200 },
  };
  let end = () => {};
  const plain = globalThis.fetch;
  globalThis.fetch = (async (path: string, init: RequestInit) => {
    if (path === "/api/directories/look") await new Promise<void>((resolve) => (end = resolve));
    return plain(path, init);
  }) as never;
  show(<DirectoryScreen />);
  await look("address\nida@home.example\n");
  await screen.findByText("Comparing people with the directory: 1,200");
  fireEvent.click(screen.getByRole("button", { name: "Stop" }));
  await waitFor(() => expect(sent.map(({ path }) => path)).toContain("/api/directories/stop"));
  end();
  await waitFor(() => expect(screen.queryByRole("button", { name: "Stop" })).toBeNull());
});
