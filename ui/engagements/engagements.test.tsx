import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { NuqsTestingAdapter } from "nuqs/adapters/testing";
import type { ReactNode } from "react";
import { type EngagementPage, engagementsOperations } from "@/contract/engagements";
import { DAY } from "@/core/time/instant";
import { T } from "@/tests/records";
import { StandpointContext } from "../frame/viewer";
import { EndingScreen } from "./EndingScreen";
import { EngagementScreen } from "./EngagementScreen";
import { EngagementsScreen } from "./EngagementsScreen";
import { MakeEngagementScreen } from "./MakeEngagementScreen";

const pushed = jest.fn();
jest.mock("next/navigation", () => ({ useRouter: () => ({ push: pushed }) }));

const engagement = {
  ...{ id: "e", name: "Autumn tour", organisations: ["quay.example"], items: 1 },
  ...{ starts: T - 30 * DAY, ends: T + 5 * DAY, shares: 2, used: 1 },
};
const kept = { responsible: "ida@home.example", madeBy: "ada@home.example", madeAt: T - 30 * DAY };
const share = (id: string, organisations: string[], lastUsed: number | null) => ({
  ...{ id, item: `Item ${id}`, place: ["Stacks"], sentence: "They can look.", organisations, lastUsed },
});
const page: EngagementPage = {
  ...{ engagement, kept, graceDays: 7 },
  items: [{ id: "a", name: "Touring", kind: "folder", label: "internal", place: ["Stacks"] }],
  shares: [share("s", ["quay.example"], T - DAY), share("o", [], null)],
  strays: [share("x", ["mixer.example"], null)],
  extensions: [{ from: T, until: T + 5 * DAY, reason: "Two more concerts", by: "ida@home.example", at: T - DAY }],
};
let answers: Record<string, unknown>;
let sent: { path: string; method: string; body: Record<string, unknown> }[];

beforeEach(() => {
  [sent, answers] = [[], { "/api/engagements/one": page }];
  globalThis.fetch = (async (path: string, { method, body }: RequestInit) => {
    if (body) sent.push({ path, method: method!, body: JSON.parse(body as string) });
    return { ok: true, status: 200, json: async () => answers[path.split("?")[0]] ?? {} };
  }) as never;
});

function show(children: ReactNode, { mayChange = true } = {}) {
  const viewer = { name: "Ada", address: "ada@home.example", mayChange };
  render(
    <NuqsTestingAdapter searchParams="?id=e" hasMemory>
      <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
        <StandpointContext value={{ viewer, now: T, past: null }}>{children}</StandpointContext>
      </QueryClientProvider>
    </NuqsTestingAdapter>,
  );
}

test("the list has what goes on before what is over, and who answers for each", async () => {
  const over = { ...engagement, id: "o", name: "Spring tour", ends: T - DAY };
  const list = [
    { ...engagement, responsible: kept.responsible },
    { ...over, responsible: null },
  ];
  answers["/api/engagements"] = { total: 2, found: 2, page: list, problems: [] };
  expect(engagementsOperations.engagements.answer.parse(answers["/api/engagements"])).toEqual(
    answers["/api/engagements"],
  );
  show(<EngagementsScreen />);
  expect(await screen.findByRole("region", { name: "Current and upcoming" })).toBeTruthy();
  expect(screen.getByRole("region", { name: "Over" }).textContent).toContain("unknown here");
  expect(screen.getByRole("link", { name: "Autumn tour" }).getAttribute("href")).toBe("/people/project?id=e");
});

test("a list without a project says what one is", async () => {
  answers["/api/engagements"] = { total: 0, found: 0, page: [], problems: [] };
  show(<EngagementsScreen />);
  expect(await screen.findByText(/There are no projects yet/)).toBeTruthy();
  expect(screen.getByRole("link", { name: "New project" })).toBeTruthy();
});

test("a project's page has what is shared for it, what is for none, and every other end that it got", async () => {
  expect(engagementsOperations.engagement.answer.parse(page)).toEqual(page);
  show(<EngagementScreen />);
  expect(await screen.findByText("Shared for it: 2 shares")).toBeTruthy();
  expect(screen.getByText("On its items, but not for any project: 1 share")).toBeTruthy();
  expect(screen.getByText("open to anyone")).toBeTruthy();
  expect(screen.getByText(/Two more concerts/)).toBeTruthy();
  expect(screen.getByText(/ida@home\.example is responsible\. 7 days after the end/)).toBeTruthy();
});

test("another end takes a reason; to end it now is asked once, with what follows", async () => {
  show(<EngagementScreen />);
  fireEvent.click(await screen.findByRole("button", { name: "Change the end date" }));
  fireEvent.change(screen.getByLabelText("Reason"), { target: { value: "Two more concerts" } });
  fireEvent.click(screen.getByRole("button", { name: "Save the end date" }));
  await waitFor(() => expect(sent.at(-1)?.body).toMatchObject({ id: "e", reason: "Two more concerts" }));
  fireEvent.click(await screen.findByRole("button", { name: "End it now" }));
  expect(screen.getByText(/in 7 days a docket with everything shared for it/)).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "End it" }));
  await waitFor(() => expect(sent.at(-1)).toMatchObject({ method: "POST", path: "/api/engagements/end" }));
});

test("one that a file tells of, or an auditor, has nothing to press", async () => {
  answers["/api/engagements/one"] = { ...page, kept: null };
  show(<EngagementScreen />);
  expect(await screen.findByText(/It comes from a file or a store: change it there\./)).toBeTruthy();
  expect(screen.queryAllByRole("button")).toEqual([]);
});

test("one is made from what is found, and from an organisation of which nothing is known yet", async () => {
  answers["/api/ways/find"] = answers["/api/find"] = {
    items: [{ id: "a", name: "Touring", kind: "folder", label: "internal", place: ["Stacks"] }],
    people: [{ address: "ida@home.example", name: "Ida", status: "active" }],
    organisations: [],
  };
  answers["/api/engagements"] = { id: "new" };
  show(<MakeEngagementScreen />);
  fireEvent.change(screen.getByLabelText("Name"), { target: { value: "Spring tour" } });
  for (const [field, text] of [
    ["Add an item", "tour"],
    ["Add an organisation", "printer.example"],
    ["Responsible", "ida"],
  ]) {
    fireEvent.change(screen.getByRole("combobox", { name: field }), { target: { value: text } });
    await screen.findAllByRole("option");
    fireEvent.keyDown(screen.getByRole("combobox", { name: field }), { key: "Enter" });
  }
  fireEvent.click(screen.getByRole("button", { name: "Create" }));
  await waitFor(() =>
    expect(sent.at(-1)?.body).toMatchObject({
      ...{ name: "Spring tour", itemIds: ["a"], organisations: ["printer.example"], responsible: "ida@home.example" },
    }),
  );
  await waitFor(() => expect(pushed).toHaveBeenCalledWith("/people/project?id=new"));
});

test("by the mail, whoever answers for it extends it or lets it end, and is told that it is done", async () => {
  window.location.hash = "#token";
  const asked = { name: "Autumn tour", organisations: ["quay.example"], ends: T + DAY, graceDays: 7 };
  answers["/api/engagements/asked"] = answers["/api/engagements/asked/let-end"] = {
    ...{ ...asked, shares: page.shares, latest: T + 366 * DAY },
  };
  render(<EndingScreen now={T} />);
  expect(await screen.findByText("2 shares for it now")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Let it end" }));
  expect(
    await screen.findByText(/It will end as planned\. There is nothing more to do; you can close this page\./),
  ).toBeTruthy();
  expect(sent.at(-1)).toMatchObject({ path: "/api/engagements/asked/let-end", body: { token: "token" } });
  expect(screen.queryByRole("button", { name: "Extend it" })).toBeNull();
});
