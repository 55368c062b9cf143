import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { inDays, T } from "@/tests/records";
import { StandpointContext } from "../frame/viewer";
import { OrdersPart } from "./OrdersPart";

let orders: object[];
let dropped: object[];

beforeEach(() => {
  dropped = [];
  orders = [{ id: 3, shareId: "n", itemName: "Plan.pdf", on: inDays(9), by: "ida@home.example" }];
  globalThis.fetch = (async (_: string, init: RequestInit = {}) => {
    if (init.method === "DELETE") {
      dropped.push(JSON.parse(init.body as string));
      orders = [];
    }
    return { ok: true, json: async () => ({ orders }) };
  }) as never;
});

const show = (mayChange: boolean) =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <StandpointContext
        value={{ viewer: { name: "Imre", address: "imre@home.example", mayChange }, now: T, past: null }}
      >
        <OrdersPart />
      </StandpointContext>
    </QueryClientProvider>,
  );

test("standing orders are told with their day and can be cancelled", async () => {
  show(true);
  expect((await screen.findByText("14 Oct 2026")).textContent).toContain("in 9 days");
  expect(screen.getByRole("link", { name: "Plan.pdf" }).getAttribute("href")).toBe("/register?share=n");
  fireEvent.click(screen.getByRole("button", { name: "Cancel it" }));
  await waitFor(() => expect(dropped).toEqual([{ id: 3 }]));
  expect(
    await screen.findByText(
      /^None\. Where a store can’t keep an end date, a share that gets one gets a standing order instead\./,
    ),
  ).toBeTruthy();
});

test("whoever may only look takes none back", async () => {
  show(false);
  expect(await screen.findByText("Plan.pdf")).toBeTruthy();
  expect(screen.queryByRole("button", { name: "Cancel it" })).toBeNull();
});
