import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { T } from "@/tests/records";
import { Palette } from "./Palette";
import { StandpointContext } from "./viewer";

const pushed: string[] = [];
jest.mock("next/navigation", () => ({ useRouter: () => ({ push: (path: string) => pushed.push(path) }) }));

globalThis.ResizeObserver = class {
  observe() {}
  unobserve() {}
  disconnect() {}
};
Element.prototype.scrollIntoView = () => {};

const answers: Record<string, unknown> = {
  "/api/queries": { queries: [{ id: "q", name: "Old links", view: "q=reach:open", count: 12, forAll: false }] },
  "/api/ways/find": {
    items: [{ id: "i1", name: "Tour book", kind: "folder", label: "internal", place: ["Stacks"] }],
    organisations: [],
    people: [],
  },
  "/api/tray": { docketId: null, changes: [] },
};
const acts = { onKeys: jest.fn(), onPast: jest.fn() };

function Shown() {
  const [isOpen, setOpen] = useState(false);
  return <Palette present={T} isOpen={isOpen} onOpen={setOpen} {...acts} />;
}

beforeEach(() => {
  pushed.length = 0;
  globalThis.fetch = (async (path: string) => ({ ok: true, json: async () => answers[path.split("?")[0]] })) as never;
  const viewer = { name: "Imre", address: "imre@home.example", mayChange: true };
  render(
    <QueryClientProvider client={new QueryClient()}>
      <StandpointContext value={{ viewer, now: T, past: null }}>
        <Shown />
      </StandpointContext>
    </QueryClientProvider>,
  );
  fireEvent.keyDown(window, { key: "k", ctrlKey: true });
});

const field = () => screen.getByRole("combobox");
const type = (value: string) => fireEvent.change(field(), { target: { value } });
const enter = () => fireEvent.keyDown(field(), { key: "Enter" });

test("a screen is gone to by its name, whatever the case, and it closes", async () => {
  type("WAIV");
  await waitFor(() => expect(screen.getAllByRole("option")).toHaveLength(1));
  enter();
  expect(pushed).toEqual(["/rules/waivers"]);
  await waitFor(() => expect(screen.queryByRole("combobox")).toBeNull());
});

test("an item of that name leads to its ways in; it is chosen as soon as it comes", async () => {
  type("tour bo");
  await waitFor(() =>
    expect(screen.getByRole("option", { name: /Tour book/ }).getAttribute("aria-selected")).toBe("true"),
  );
  enter();
  expect(pushed).toEqual(["/ways?item=i1"]);
});

test("saved queries stand there with how many they find, and commands do something", async () => {
  fireEvent.click(await screen.findByRole("option", { name: /Old links.*12 shares/ }));
  expect(pushed).toEqual(["/register?q=reach:open"]);
  fireEvent.keyDown(window, { key: "k", metaKey: true });
  type("this screen’s keys");
  await waitFor(() => expect(screen.getAllByRole("option")).toHaveLength(1));
  enter();
  expect(acts.onKeys).toHaveBeenCalled();
});

test("the same keys close it", async () => {
  expect(screen.getByRole("dialog", { name: "Find" })).toBeTruthy();
  fireEvent.keyDown(window, { key: "K", ctrlKey: true });
  await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
});
