import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { FACETS, type Facet, SPAN_DAYS } from "@/core/query/facets";
import type { Funnel as Counts } from "@/core/query/page";
import { Funnel } from "./Funnel";

globalThis.ResizeObserver = class {
  observe() {}
  unobserve() {}
  disconnect() {}
};

const values = (...counted: [value: string, count: number][]) =>
  counted.map(([value, count]) => ({ value, title: value, count }));
const facets = FACETS.map((field): Facet => {
  if (field === "reach") return { field, values: 2, none: 0, top: values(["open", 30], ["house", 10]) };
  if (field === "risk") return { field, values: 1, none: 7, top: values(["high", 3]) };
  if (field === "maker") return { field, values: 40, none: 0, top: values(["ada@home.example", 9]) };
  return { field, values: 0, none: 0, top: [] };
});
const counts = Array.from({ length: SPAN_DAYS.length + 1 }, (_, bar) => bar);
const answer: Counts = { facets, histograms: [{ field: "used", counts, never: 12 }] };
const revoke = (shareId: string) => ({ subject: shareId, change: { action: "revoke", shareId } });
const tray = { docketId: "d1", changes: [revoke("a"), revoke("b"), { ...revoke("a"), subject: "a end" }] };
const found: Facet = { field: "maker", values: 40, none: 0, top: values(["nox@home.example", 2]) };

function show(query: string) {
  const paths: string[] = [];
  globalThis.fetch = (async (path: string) => {
    paths.push(path);
    if (path === "/api/tray") return { ok: true, json: async () => tray };
    return { ok: true, json: async () => (path.startsWith("/api/register/facet") ? found : answer) };
  }) as never;
  const onQuery = jest.fn();
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Funnel query={query} past={null} isBeside={false} onQuery={onQuery} />
    </QueryClientProvider>,
  );
  return { onQuery, paths };
}

test("values are told with their counts, chosen ones are pressed, and facets without any aren't there", async () => {
  show("poster reach:house");
  const house = await screen.findByRole("button", { name: "House 10" });
  expect(house.getAttribute("aria-pressed")).toBe("true");
  expect(screen.getByRole("button", { name: "Open 30" }).getAttribute("aria-pressed")).toBe("false");
  expect(screen.queryByRole("heading", { name: "Maker’s department" })).toBeNull();
});

test("pressing a value asks for it, pressing it again no longer; none is a value where that means something", async () => {
  const { onQuery } = show("poster reach:house");
  fireEvent.click(await screen.findByRole("button", { name: "Open 30" }));
  fireEvent.click(screen.getByRole("button", { name: "House 10" }));
  fireEvent.click(screen.getByRole("button", { name: "None 7" }));
  expect(onQuery.mock.calls.flat()).toEqual(["poster reach:house,open", "poster", "poster reach:house risk:none"]);
});

test("a long facet is searched, and what is found is asked for as a whole", async () => {
  const { onQuery, paths } = show("");
  fireEvent.click(await screen.findByRole("button", { name: "39 more" }));
  fireEvent.change(screen.getByRole("textbox", { name: "Search in Made by" }), { target: { value: "nox" } });
  fireEvent.click(await screen.findByRole("button", { name: "nox@home.example 2" }));
  expect(onQuery).toHaveBeenCalledWith('maker:"nox@home.example"');
  await waitFor(() => expect(paths.at(-1)).toContain("text=nox"));
});

test("a span is typed, or moved by the ends of its slider", async () => {
  const { onQuery } = show("used:>=30d");
  const chart = within(await screen.findByRole("region", { name: "Last used" }));
  expect(chart.getByText("30 and more days ago")).toBeTruthy();
  expect(chart.getByText("Never: 12")).toBeTruthy();
  const from = chart.getByRole("textbox", { name: "Last used: from days" }) as HTMLInputElement;
  expect(from.value).toBe("30");
  fireEvent.change(chart.getByRole("textbox", { name: "Last used: to days" }), { target: { value: "90x" } });
  fireEvent.click(chart.getByRole("button", { name: "Set" }));
  fireEvent.keyDown(chart.getByRole("slider", { name: "Last used: from" }), { key: "ArrowRight" });
  expect(onQuery.mock.calls.flat()).toEqual(["used:>=30d used:<90d", "used:>=45d"]);
});

test("while the query isn't understood nothing is narrowed, so that nothing of it is lost", async () => {
  const { onQuery } = show("rech:open");
  (await screen.findByRole("button", { name: "Open 30" })).click();
  expect(onQuery).not.toHaveBeenCalled();
  expect(screen.getByText("Correct the query above to narrow it down here.")).toBeTruthy();
});

test("what is in the tray can be narrowed down to, each share counted once", async () => {
  const { onQuery } = show("reach:house");
  fireEvent.click(await screen.findByRole("button", { name: "In the tray 2" }));
  expect(onQuery).toHaveBeenCalledWith('reach:house docket:"d1"');
});
