import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import type { ReactNode } from "react";
import type { Report } from "@/core/evidence/report";
import type { ReportSchedule } from "@/core/evidence/schedule";
import { T } from "@/tests/records";
import { StandpointContext } from "../frame/viewer";
import { ReportScreen } from "./ReportScreen";
import { ReportsScreen } from "./ReportsScreen";

let parameters = "";
const went: string[] = [];
jest.mock("next/navigation", () => ({
  useRouter: () => ({ push: (address: string) => went.push(address) }),
  useSearchParams: () => new URLSearchParams(parameters),
}));
jest.mock("./ReportFigure", () => ({ ReportFigure: () => <p>drawn</p> }));

let answers: Record<string, unknown>;
const sent: [method: string, path: string, body: unknown][] = [];
beforeEach(() => {
  [went.length, sent.length] = [0, 0];
  globalThis.fetch = (async (path: string, { method, body }: { method: string; body?: string }) => {
    sent.push([method, path, body && JSON.parse(body)]);
    const answer = answers[path.split("?")[0]];
    return { ok: answer !== undefined, status: 400, json: async () => answer ?? { error: "day: must be a day." } };
  }) as never;
});

function show(children: ReactNode, mayChange = true) {
  const viewer = { name: "Imre", address: "imre@home.example", mayChange };
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <StandpointContext value={{ viewer, now: T, past: null }}>{children}</StandpointContext>
    </QueryClientProvider>,
  );
}

const monthly: ReportSchedule = {
  ...{ id: 4, kind: "state", every: "month", to: "board@home.example", addedBy: "imre@home.example" },
  ...{ nextAt: T, sentAt: null, error: "The mail server can't be reached." },
};

test("a report is asked for by a day or a span, and can't be before what it is about is picked", async () => {
  answers = { "/api/reports/schedules": [], "/api/rounds": [] };
  show(<ReportsScreen />);
  const form = (name: string) => within(screen.getByRole("form", { name }));
  fireEvent.submit(screen.getByRole("form", { name: "State of sharing outside" }));
  fireEvent.submit(screen.getByRole("form", { name: "Controls" }));
  fireEvent.submit(screen.getByRole("form", { name: "Who could reach it on a day" }));
  expect(went).toEqual([
    "/ledger/reports/state?day=2026-10-05",
    "/ledger/reports/controls?from=2025-10-05&to=2026-10-05",
  ]);
  expect(form("Who could reach it on a day").getByRole("button", { name: "Open" })).toHaveProperty("disabled", true);
  await waitFor(() => form("A round").getByText("No round has opened yet."));
});

test("what is sent on a schedule is listed with what went wrong, added, and stopped; an auditor only sees it", async () => {
  answers = { "/api/reports/schedules": [monthly], "/api/rounds": [] };
  show(<ReportsScreen />);
  await screen.findByText("The mail server can't be reached.");
  fireEvent.click(screen.getByRole("button", { name: "Stop sending it to board@home.example" }));
  fireEvent.change(screen.getByLabelText("To"), { target: { value: " ada@home.example " } });
  fireEvent.submit(screen.getByRole("form", { name: "Schedule a report" }));
  await waitFor(() => expect(sent.filter(([method]) => method !== "GET")).toHaveLength(2));
  expect(sent.filter(([method]) => method !== "GET").map(([method, , body]) => [method, body])).toEqual([
    ["DELETE", { id: 4 }],
    ["POST", { kind: "state", every: "month", to: "ada@home.example" }],
  ]);
  document.body.innerHTML = "";
  show(<ReportsScreen />, false);
  await screen.findByText("board@home.example");
  expect(screen.queryByRole("button", { name: /Stop/ })).toBeNull();
});

test("a report shows its tables with what is left out of them, and leads to its PDF and CSV", async () => {
  parameters = "day=2026-10-05";
  const table = { heads: ["Shares", "Figure"], rows: [["Open", "2"]], figures: [1], left: 1_200 };
  const report: Report = {
    title: "Sharing outside on 5 Oct 2026",
    words: "Times are UTC.",
    sections: [
      { title: "Words alone", words: "Nothing came back." },
      { title: "Figures", words: "", chart: { labels: [], lines: [] }, table },
    ],
  };
  answers = { "/api/reports": report };
  show(<ReportScreen kind="state" />);
  await screen.findByRole("heading", { name: report.title });
  expect(screen.getByRole("table", { name: "Figures" })).toBeTruthy();
  expect(screen.getByText("The first 1 rows; 1,200 more are in the table’s CSV.")).toBeTruthy();
  expect(screen.getByText("drawn")).toBeTruthy();
  const href = (name: string) => screen.getByRole("link", { name }).getAttribute("href");
  expect(href("Save as PDF")).toBe("/api/reports/pdf?kind=state&day=2026-10-05");
  expect(href("CSV of Figures")).toBe("/api/reports/table?kind=state&day=2026-10-05&section=1");
});

test("what can't be had is said", async () => {
  answers = {};
  show(<ReportScreen kind="state" />);
  await screen.findByText("day: must be a day.");
});
