import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import type { HandTold, SavedMappingTold } from "@/contract/imports";
import { guessHeadings } from "@/core/imports/headings";
import { proposeMapping } from "@/core/imports/propose";
import { T } from "@/tests/records";
import { StandpointContext } from "../frame/viewer";
import { ImportScreen } from "./ImportScreen";
import { ImportsScreen } from "./ImportsScreen";

const ROWS = [
  ["Path", "Shared with", "Role", "Expires"],
  ["/Payroll/May.xlsx", "bea@quay.example", "Kijken", "31/12/2026"],
  ["/Payroll", "odo@quay.example", "edit", "03/04/2027"],
];
const LOOK = {
  ...{ file: "archive.csv", isWorkbook: false, encoding: "utf-8", separator: ",", sheet: null, sheets: [] },
  ...{ rows: ROWS, count: 3 },
} as const;
const NOTHING_FOUND = { fresh: 0, changed: 0, same: 0 };
const OUTLOOK: HandTold["outlook"] = {
  ...{ rows: 2, understood: 1, refused: 1, left: 0, inherited: 0, remarked: 0 },
  ...{ problems: [{ line: 2, message: "nobody has said yet what “kijken” means" }], leftOut: [], remarks: [] },
  ...{ unmapped: [], items: { ...NOTHING_FOUND, fresh: 2 }, shares: { ...NOTHING_FOUND, fresh: 1 } },
  ...{ ended: [{ item: "Old.pdf", audience: "anyone" }], endedCount: 30, held: 60, unknownGroups: ["Friends"] },
  ...{ digest: "d", isHeld: true },
};
let hand: HandTold | null;
let mappings: SavedMappingTold[];
let sent: [path: string, body: unknown][];

beforeEach(() => {
  hand = { file: "archive.csv", step: null, problem: null, outlook: null, unchangedSince: null, imported: null };
  mappings = [];
  sent = [];
  globalThis.fetch = (async (address: string, init: RequestInit = {}) => {
    const path = address.split("?")[0];
    const answer = (body: object) => ({ ok: true, status: 200, json: async () => body });
    if (init.method && init.method !== "GET") {
      sent.push([path, typeof init.body === "string" ? JSON.parse(init.body) : init.body]);
      if (path === "/api/imports/file" || path === "/api/imports/look") return answer(LOOK);
      if (path === "/api/imports/check") hand = { ...hand!, outlook: OUTLOOK };
      return answer({});
    }
    return answer(path === "/api/imports/now" ? { hand } : { runs: RUNS, mappings });
  }) as never;
});

const RUNS = [
  {
    ...{ id: 1, source: "archive", file: "archive.csv", mapping: "archive", by: "ada@home.example", at: T },
    ...{ state: "stopped", rows: 2_000, skipped: 3, changed: 1, ended: 0 },
  },
];

function show(what: React.ReactNode, mayChange = true) {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const viewer = { name: "Ada", address: "ada@home.example", mayChange };
  return render(
    <QueryClientProvider client={client}>
      <StandpointContext value={{ viewer, now: T, past: null }}>{what}</StandpointContext>
    </QueryClientProvider>,
  );
}

async function choose() {
  const field = document.querySelector("input[type=file]")!;
  fireEvent.change(field, { target: { files: [new File(["x"], "archive.csv")] } });
  await screen.findByText("What each column says");
}

test("columns are proposed with their reasons; a word that nobody has mapped is asked for, and the rows say what comes of it", async () => {
  show(<ImportScreen />);
  await choose();
  expect((screen.getByLabelText("What Path says") as HTMLSelectElement).value).toBe("path");
  expect(screen.getByText("its heading says “Expires”")).toBeTruthy();
  const asked = screen.getByLabelText("“kijken” means") as HTMLSelectElement;
  expect(asked.value).toBe("");
  expect(screen.getByText(/nobody has said yet what “Kijken|nobody has said yet what “kijken/)).toBeTruthy();
  fireEvent.change(asked, { target: { value: "view" } });
  expect(await screen.findByText(/bea@quay\.example: view, ends 31 Dec 2026/)).toBeTruthy();
  expect(screen.getByText("Links are taken to have no password.")).toBeTruthy();
});

test("a report is checked under its store's name; what is skipped, and that many shares end, has to be confirmed", async () => {
  show(<ImportScreen />);
  await choose();
  const check = screen.getByRole("button", { name: "Check 3 rows" }) as HTMLButtonElement;
  expect(check.disabled).toBe(true);
  fireEvent.change(screen.getByLabelText("Store"), { target: { value: "Das Archiv, Köln" } });
  expect((screen.getByLabelText("Short name") as HTMLInputElement).value).toBe("das-archiv-koln");
  fireEvent.click(check);
  const take = (await screen.findByRole("button", { name: "Import without 1 row" })) as HTMLButtonElement;
  expect(sent.find(([path]) => path === "/api/imports/check")![1]).toMatchObject({
    ...{ source: "das-archiv-koln", title: "Das Archiv, Köln" },
    mapping: { columns: { path: "Path", audience: "Shared with", role: "Role", ends: "Expires" } },
  });
  expect(screen.getByText(/Nobody tells who is in 1 group/).textContent).toContain("Friends");
  expect(within(screen.getByLabelText("Shares that ended")).getByText("Old.pdf", { exact: false })).toBeTruthy();
  expect(take.disabled).toBe(true);
  fireEvent.click(screen.getByLabelText(/The report is complete: these 30 shares have ended/));
  fireEvent.click(take);
  await waitFor(() =>
    expect(sent.at(-1)).toEqual([
      "/api/imports/take",
      { digest: "d", mapping: "das-archiv-koln", skips: true, ended: 30 },
    ]),
  );
});

test("a report of a shape that is known is checked at once, and read as it was before", async () => {
  const file = { encoding: "utf-8", separator: ",", sheet: null, zone: "UTC" } as const;
  const mapping = { ...proposeMapping(ROWS, guessHeadings(ROWS), file), values: { role: { kijken: "view" as const } } };
  mappings = [{ name: "archive", source: "archive", title: "The archive", mapping, savedBy: "ada", savedAt: T }];
  show(<ImportScreen />);
  const field = document.querySelector("input[type=file]")!;
  fireEvent.change(field, { target: { files: [new File(["x"], "archive.csv")] } });
  expect((await screen.findByText(/Its columns are those of The archive/)).textContent).toContain("the same way");
  await waitFor(() => expect(sent.map(([path]) => path)).toContain("/api/imports/check"));
  expect(screen.queryByText("What each column says")).toBeNull();
  fireEvent.click(screen.getByRole("button", { name: "Show how" }));
  expect((screen.getByLabelText("“kijken” means") as HTMLSelectElement).value).toBe("view");
});

test("what was imported is listed with what came of it; whoever may only look removes no mapping", async () => {
  mappings = [];
  show(<ImportsScreen />, false);
  expect(
    await screen.findByText("Stopped: 2,000 rows, 3 skipped, 1 record new or changed, 0 shares ended"),
  ).toBeTruthy();
  expect(screen.queryByRole("link", { name: "Import a report…" })).toBeNull();
});
