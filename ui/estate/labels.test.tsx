import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { NOW, T } from "@/tests/records";
import { seconds } from "@/core/time/instant";
import { StandpointContext } from "../frame/viewer";
import { LabelsPart } from "./LabelsPart";

const PAYROLL = { label: "restricted", on: "name", of: "*payroll*" };
const KEPT = { id: 7, ...PAYROLL, words: null, setBy: "ada@home.example", setAt: seconds(NOW) };
const item = (name: string) => ({ id: name, name, kind: "file", label: "internal", place: ["Stacks", "Office"] });
let sent: [method: string, path: string, body: unknown][];
let count: number;

beforeEach(() => {
  sent = [];
  count = 2;
  globalThis.fetch = (async (path: string, { method = "GET", body }: RequestInit = {}) => {
    if (method !== "GET") sent.push([method, path, JSON.parse(body as string)]);
    const items = [item("Payroll 2026.ods"), item("payroll notes.txt")];
    const told = path.endsWith("/look")
      ? { count, turns: count === 0 ? [] : [{ from: "internal", to: "restricted", count, items }] }
      : path === "/api/labels" && method === "GET"
        ? { rules: [KEPT] }
        : {};
    return { ok: true, status: 200, json: async () => told };
  }) as never;
});

const show = (mayChange = true) =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <StandpointContext
        value={{ viewer: { name: "Ada", address: "ada@home.example", mayChange }, now: T, past: null }}
      >
        <LabelsPart />
      </StandpointContext>
    </QueryClientProvider>,
  );

/** A rule for names, filled in and previewed. */
async function previewRule() {
  fireEvent.change(await screen.findByLabelText("Label"), { target: { value: "restricted" } });
  fireEvent.change(screen.getByLabelText("for"), { target: { value: "name" } });
  fireEvent.change(screen.getByLabelText(/^Pattern/), { target: { value: "*payroll*" } });
  fireEvent.click(screen.getByRole("button", { name: "Preview it" }));
}

test("a rule is previewed with some of its items, and saved with the count that was shown", async () => {
  show();
  await previewRule();
  expect(await screen.findByText("2 items would get another label.")).toBeTruthy();
  expect(screen.getByText("Office / Payroll 2026.ods; Office / payroll notes.txt")).toBeTruthy();
  expect(sent).toEqual([["POST", "/api/labels/look", { rule: PAYROLL }]]);
  fireEvent.click(screen.getByRole("button", { name: "Save the rule" }));
  await waitFor(() => expect(sent.at(-1)).toEqual(["POST", "/api/labels", { rule: PAYROLL, count: 2 }]));
});

test("a rule that changes nothing says so; one that is cancelled isn’t saved", async () => {
  count = 0;
  show();
  await previewRule();
  expect(await screen.findByText("No item gets another label.")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Cancel" }));
  expect(screen.queryByText("No item gets another label.")).toBeNull();
  expect(sent).toHaveLength(1);
});

test("what ending a rule means is shown first; whoever may only look can do neither", async () => {
  const { unmount } = show();
  fireEvent.click(await screen.findByRole("button", { name: "End it…" }));
  expect(await screen.findByText("2 items would get another label.")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "End the rule" }));
  await waitFor(() => expect(sent.at(-1)).toEqual(["DELETE", "/api/labels", { id: 7, count: 2 }]));
  unmount();
  show(false);
  expect(await screen.findByText("*payroll*")).toBeTruthy();
  expect(screen.queryByRole("button", { name: "End it…" })).toBeNull();
  expect(screen.queryByRole("button", { name: "Preview it" })).toBeNull();
});
