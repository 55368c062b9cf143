import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import type { RegisterLine } from "@/core/query/page";
import type { RegisterSettings } from "@/core/register/saved";
import { UTC_DATES } from "@/core/time/style";
import { estateOf, file, item, link, T } from "@/tests/records";
import { listedRows } from "@/tests/registerModel";
import { datesIn } from "../parts/dates";
import { ColumnsMenu } from "./ColumnsMenu";
import { COLUMNS, FIRST_COLUMNS } from "./columns";
import { lineOf } from "./copyRows";
import { Table } from "./Table";
import { useMarks } from "./useMarks";
import { useTableState } from "./useTableState";

globalThis.ResizeObserver = class {
  observe() {}
  unobserve() {}
  disconnect() {}
};
// Nothing has a size here: the table is given one, so that it draws its rows.
Object.defineProperty(HTMLElement.prototype, "clientHeight", { value: 600 });
Object.defineProperty(HTMLElement.prototype, "clientWidth", { value: 1_000 });

const rows = listedRows(
  estateOf(item("a", null, { name: "Tour" }), file("f", "a", { name: "Plan\tA" }), link("l1", "f"), link("l2", "f")),
  T,
);
const TOTALS = { risk: "high" as const, open: 1, lastUsed: null };
const lines: RegisterLine[] = [
  { kind: "group", key: "f", title: "Plan A", detail: "Stacks", depth: 0, count: 2, ...TOTALS, isOpen: true },
  ...rows.map((row): RegisterLine => ({ kind: "share", row, depth: 1 })),
  { kind: "group", key: "g", title: "Poster", detail: "", depth: 0, count: 5, ...TOTALS, isOpen: false },
];

const sent: unknown[] = [];
const acts = { setCursor: jest.fn(), onSort: jest.fn(), onOpen: jest.fn(), onToggle: jest.fn(), onSight: jest.fn() };

function Shown({ settings, cursor }: { settings?: RegisterSettings; cursor: number }) {
  const marks = useMarks();
  const state = useTableState(settings);
  return (
    <>
      <p>{[...marks.marked].join()}</p>
      <ColumnsMenu state={state} />
      <Table
        {...acts}
        {...{ marks, state, cursor }}
        stagedIds={new Set([rows[0].id])}
        lines={lines.length}
        now={T}
        order={[
          { by: "ends", reversed: true },
          { by: "item", reversed: false },
        ]}
        isGrouped
        openId={null}
        lineAt={(index) => lines[index]}
      />
    </>
  );
}

const NOTHING: RegisterSettings = { table: null, start: null, startView: null, looked: null, lookedBefore: null };

function show(cursor: number, settings: RegisterSettings = NOTHING) {
  globalThis.fetch = (async (_: string, init: RequestInit) => {
    sent.push(JSON.parse(init.body as string));
    return { ok: true, json: async () => ({}) };
  }) as never;
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Shown cursor={cursor} settings={settings} />
    </QueryClientProvider>,
  );
  return screen.getByRole("treegrid", { name: "Shares" });
}

const heads = () => screen.getAllByRole("columnheader").map(({ textContent }) => textContent!.replace(/\d$/, ""));

beforeEach(() => {
  sent.length = 0;
  Object.values(acts).forEach((act) => act.mockClear());
});

test("groups open and shut by keys and by the mouse, shares are opened and marked", () => {
  const grid = show(0);
  fireEvent.keyDown(grid, { key: "ArrowLeft" });
  fireEvent.keyDown(grid, { key: "ArrowRight" });
  expect(acts.onToggle.mock.calls).toEqual([[lines[0]]]);
  fireEvent.click(screen.getByText("Poster"));
  expect(acts.onToggle).toHaveBeenLastCalledWith(lines[3]);
  expect(screen.getByText("5 shares")).toBeTruthy();
});

test("on a share, Space marks and Enter opens; arrows move, at most to the last line", () => {
  const grid = show(1);
  fireEvent.keyDown(grid, { key: " " });
  expect(screen.getByText("l1")).toBeTruthy();
  fireEvent.keyDown(grid, { key: "Enter" });
  expect(acts.onOpen).toHaveBeenCalledWith(rows[0]);
  fireEvent.keyDown(grid, { key: "End" });
  expect(acts.setCursor).toHaveBeenLastCalledWith(3);
  fireEvent.keyDown(grid, { key: "ArrowDown", shiftKey: true });
  expect(screen.getByText("l1,l2")).toBeTruthy();
});

test("a column's name sorts by it, with Shift as the second thing; what it is sorted by is told", () => {
  show(0);
  expect(screen.getByRole("columnheader", { name: /Ends/ }).getAttribute("aria-sort")).toBe("descending");
  fireEvent.click(screen.getByRole("button", { name: /Last used/ }));
  fireEvent.click(screen.getByRole("button", { name: /Made/ }), { shiftKey: true });
  expect(acts.onSort.mock.calls).toEqual([
    ["used", false],
    ["made", true],
  ]);
});

test("columns are hidden, moved and widened, that is kept, and can be reset", async () => {
  show(0);
  expect(heads()).toEqual(["Mark", "Risk", "Item", "Latches", "Audience", "Role", "Ends", "Last used", "Made"]);
  fireEvent.click(screen.getByRole("button", { name: "Columns" }));
  fireEvent.click(screen.getByRole("checkbox", { name: "Latches" }));
  fireEvent.click(screen.getByRole("button", { name: "Move Item to the left" }));
  fireEvent.click(screen.getByRole("button", { name: "Make Risk wider" }));
  const shown = () =>
    [...document.querySelectorAll("[role=columnheader]")].map((one) => one.textContent!.replace(/\d$/, ""));
  expect(shown()).toEqual(["Mark", "Item", "Risk", "Audience", "Role", "Ends", "Last used", "Made"]);
  await waitFor(() => expect(sent).toHaveLength(1), { timeout: 2_000 });
  expect(sent[0]).toMatchObject({ table: { isCompact: false, widths: { risk: COLUMNS[0].width + 16 } } });
  fireEvent.click(screen.getByRole("button", { name: "Reset" }));
  expect(shown()).toHaveLength(FIRST_COLUMNS.length + 1);
});

test("what somebody has set before is there again", () => {
  show(0, { ...NOTHING, table: { columns: ["maker", "item"], widths: { item: 300 }, isCompact: true } });
  expect(heads()).toEqual(["Mark", "Made by", "Item"]);
  expect(document.querySelector<HTMLElement>("#row-1")!.style.gridTemplateColumns).toBe("36px 112px 300px");
  expect(document.querySelector<HTMLElement>("#row-1")!.style.height).toBe("30px");
});

test("a copied share is one line, whatever its name holds", () => {
  expect(lineOf(rows[0], datesIn(UTC_DATES))).toBe(
    "Plan␉A\tStore st / Tour\tWhoever has the address\tview\tno end\t4 Oct 2026\tPerson in",
  );
});
