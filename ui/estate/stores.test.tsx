import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import type { StoreTold } from "@/contract/stores";
import { capable, NOW, T } from "@/tests/records";
import { seconds } from "@/core/time/instant";
import { StandpointContext } from "../frame/viewer";
import { AddStorePart } from "./AddStorePart";
import { StoreLine } from "./StoreLine";
import { capabilityWords } from "./storeWords";

const STORE: StoreTold = {
  ...{ id: "stacks", storeId: "stacks", name: "Stacks", isRead: true, url: "https://stacks.example", region: null },
  ...{ capabilities: capable, lastReadAt: seconds(NOW), lastError: null, isLate: false, readsAgain: false },
  records: 1_200,
  days: [{ day: "2026-10-05", readings: 9, records: 3, errors: 1, gap: 7_200 }],
};
let sent: [method: string, path: string, body: unknown][];
let refusal: string | null;

beforeEach(() => {
  sent = [];
  refusal = null;
  globalThis.fetch = (async (path: string, init: RequestInit = {}) => {
    sent.push([init.method ?? "GET", path, init.body ? JSON.parse(init.body as string) : undefined]);
    if (refusal) return { ok: false, status: 502, json: async () => ({ error: refusal }) };
    const found = { id: "Stacks 2", name: "Stacks", capabilities: capable, records: 1_000, isAll: false };
    return { ok: true, status: 200, json: async () => (path.endsWith("/try") ? found : {}) };
  }) as never;
});

const show = (what: React.ReactNode, mayChange = true) =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <StandpointContext
        value={{ viewer: { name: "Ada", address: "ada@home.example", mayChange }, now: T, past: null }}
      >
        {what}
      </StandpointContext>
    </QueryClientProvider>,
  );

test("a store says what it can do and how its readings went, and what to do about one that failed", () => {
  show(<StoreLine store={{ ...STORE, lastError: "Stacks can't be reached." }} />);
  expect(screen.getByText(/1,200 records known/)).toBeTruthy();
  expect(screen.getByText(/The last reading failed: Stacks can't be reached\./).textContent).toContain("retried");
  const day = screen.getByRole("row", { name: /5 Oct 2026/, hidden: true });
  expect(day.textContent).toBe("5 Oct 20269312 hours");
});

test("what a store can't do is said in words of its own", () => {
  const { can, cannot } = capabilityWords({ ...capable, linkExpiry: [], grantExpiry: ["view"], maxUses: false });
  expect(cannot).toBe(
    "end dates on links; narrowing a link and keeping its address; words for those who send files in; limits on uses",
  );
  expect(can).toContain("end dates on grants to view");
});

test("to disconnect is asked once, with what it means; whoever may only look isn't offered it", async () => {
  show(<StoreLine store={STORE} />);
  fireEvent.click(screen.getByRole("button", { name: /^Disconnect…/ }));
  expect(screen.getByText(/What is known of Stacks stays as of its last reading/)).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Disconnect Stacks" }));
  await waitFor(() => expect(sent[0].slice(0, 2)).toEqual(["DELETE", "/api/estate/stores/stacks"]));
});

test("whoever may only look can do nothing with a store", () => {
  show(<StoreLine store={STORE} />, false);
  expect(screen.queryByRole("button")).toBeNull();
});

test("a store is tested before it can be connected, and another address has to be tested again", async () => {
  show(<AddStorePart isFirst />);
  const type = (label: string, value: string) => fireEvent.change(screen.getByLabelText(label), { target: { value } });
  type("Address", "https://stacks.example");
  type("Key", "secret");
  refusal = "The store refused: wrong key. Check its key.";
  fireEvent.click(screen.getByRole("button", { name: "Test it" }));
  expect(await screen.findByText(refusal)).toBeTruthy();
  refusal = null;
  fireEvent.click(screen.getByRole("button", { name: "Test it" }));
  expect((await screen.findByText(/It answers as/)).textContent).toContain("more than 1,000 records");
  expect((screen.getByLabelText("Short name") as HTMLInputElement).value).toBe("stacks-2");
  fireEvent.click(screen.getByRole("button", { name: "Connect and read it" }));
  await waitFor(() =>
    expect(sent.at(-1)).toEqual([
      "POST",
      "/api/estate/stores",
      { id: "stacks-2", name: "Stacks", url: "https://stacks.example", key: "secret" },
    ]),
  );
});
