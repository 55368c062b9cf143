import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { DAY } from "@/core/time/instant";
import { T } from "@/tests/records";
import { MySharesScreen } from "./MySharesScreen";

let sent: { path: string; method: string; body: unknown }[];
let rounds: object[];
let deputies: object[];

beforeEach(() => {
  sent = [];
  rounds = [{ round: 3, name: "Open links", state: "open", closes: T + 9 * DAY, lines: 15, open: 4 }];
  deputies = [{ id: 7, deputy: "ivo@home.example", from: T, until: T + 5 * DAY }];
  globalThis.fetch = (async (path: string, { method, body }: RequestInit) => {
    sent.push({ path, method: method ?? "GET", body: body && JSON.parse(body as string) });
    if (method !== "GET") return { ok: true, json: async () => ({}) };
    return { ok: true, json: async () => (path === "/api/my-shares" ? rounds : deputies) };
  }) as never;
});
const show = (seesConsole = false) =>
  render(<MySharesScreen name="Ida" page={null} seesConsole={seesConsole} dates={null} now={T} />);

test("whoever signs in finds the rounds that ask them, and how much is left", async () => {
  show();
  expect(await screen.findByText("4 of 15 shares to decide by 14 Oct 2026, in 9 days.")).toBeTruthy();
  expect(screen.getByRole("link", { name: "Open links" }).getAttribute("href")).toBe("/my-shares/3");
  expect(screen.queryByRole("link", { name: "Console" })).toBeNull();
});

test("where nobody asks, it says what will come", async () => {
  [rounds, deputies] = [[], []];
  show(true);
  expect(
    await screen.findByText(
      /You have nothing to decide\. When a round asks about your shares, they will appear here and you will get a mail\./,
    ),
  ).toBeTruthy();
  expect(screen.getByRole("link", { name: "Console" })).toBeTruthy();
  expect(
    await screen.findByText(/A colleague can decide for you in rounds that open while you are away\./),
  ).toBeTruthy();
});

test("a deputy is named for some days, and ended", async () => {
  show();
  fireEvent.click(await screen.findByRole("button", { name: "End it" }));
  await waitFor(() =>
    expect(sent).toContainEqual({ path: "/api/my-shares/deputies/7", method: "DELETE", body: undefined }),
  );
  fireEvent.click(screen.getByRole("button", { name: "Add a deputy…" }));
  fireEvent.change(screen.getByLabelText("Address of the deputy"), { target: { value: "oda@home.example" } });
  fireEvent.click(screen.getByRole("button", { name: "Save" }));
  await waitFor(() =>
    expect(sent.filter(({ method }) => method === "POST").map(({ body }) => body)).toEqual([
      { deputy: "oda@home.example", from: "2026-10-05T00:00:00Z", until: "2026-10-19T23:59:59Z" },
    ]),
  );
});
