import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen } from "@testing-library/react";
import type { Found } from "@/core/access/ways";
import { StandpointContext } from "../frame/viewer";
import { Finder } from "./Finder";

const found: Found = {
  items: [{ id: "i1", name: "Stage plots", kind: "folder", label: "internal", place: ["Stacks", "Opera"] }],
  organisations: ["stage.example"],
  people: [
    { address: "sid@stage.example", name: "Sid Stage", insider: false, organisation: "stage.example", status: "left" },
  ],
};
const asked: string[] = [];

beforeEach(() => {
  asked.length = 0;
  globalThis.fetch = (async (path: string) => {
    asked.push(path);
    return { ok: true, json: async () => found };
  }) as never;
});

function show(kinds: ("item" | "person" | "organisation" | "owner")[], past: string | null = null) {
  const onPick = jest.fn();
  const standpoint = { viewer: { name: "Imre", address: "imre@home.example", mayChange: true }, now: 0, past };
  render(
    <QueryClientProvider client={new QueryClient()}>
      <StandpointContext value={standpoint}>
        <Finder label="Who" placeholder="anybody" kinds={kinds} value="" onPick={onPick} />
      </StandpointContext>
    </QueryClientProvider>,
  );
  return { onPick, field: screen.getByRole("combobox", { name: "Who" }) };
}

test("offers what it may find, and takes the one that is picked by keyboard", async () => {
  const { onPick, field } = show(["person", "organisation"]);
  fireEvent.change(field, { target: { value: "sta" } });
  const options = await screen.findAllByRole("option");
  expect(options.map((option) => option.textContent)).toEqual([
    "stage.exampleeverybody at this organisation",
    "Sid Stagesid@stage.example, has left",
  ]);
  fireEvent.keyDown(field, { key: "ArrowDown" });
  expect(screen.getAllByRole("option")[1].getAttribute("aria-selected")).toBe("true");
  fireEvent.keyDown(field, { key: "ArrowDown" });
  fireEvent.keyDown(field, { key: "Enter" });
  expect(onPick).toHaveBeenCalledWith({ kind: "person", id: "sid@stage.example" }, "Sid Stage");
  expect(screen.queryAllByRole("option")).toEqual([]);
});

test("looks only for people who can own something, where an owner is wanted", async () => {
  const { onPick, field } = show(["owner"]);
  fireEvent.change(field, { target: { value: "sta" } });
  expect((await screen.findAllByRole("option")).map((option) => option.textContent)).toEqual([
    "Sid Stagesid@stage.example, has left",
  ]);
  expect(asked.at(-1)).toContain("owners=true");
  fireEvent.click(screen.getByText("Sid Stage"));
  expect(onPick).toHaveBeenCalledWith({ kind: "person", id: "sid@stage.example" }, "Sid Stage");
});

test("takes the one that is clicked", async () => {
  const { onPick, field } = show(["item"]);
  fireEvent.change(field, { target: { value: "sta" } });
  fireEvent.click(await screen.findByText("Stacks / Opera"));
  expect(onPick).toHaveBeenCalledWith({ kind: "item", id: "i1" }, "Stage plots");
});

test("asks nothing for one letter, and closes on Escape", async () => {
  const { field } = show(["item"]);
  fireEvent.change(field, { target: { value: "s" } });
  expect(asked).toEqual([]);
  fireEvent.change(field, { target: { value: "st" } });
  await screen.findAllByRole("option");
  fireEvent.keyDown(field, { key: "Escape" });
  expect(screen.queryAllByRole("option")).toEqual([]);
});

test("emptied, it picks nothing", () => {
  const { onPick, field } = show(["item"]);
  fireEvent.change(field, { target: { value: "x" } });
  fireEvent.change(field, { target: { value: "" } });
  expect(onPick).toHaveBeenLastCalledWith(null, "");
});

test("asks as of the past instant that is shown", async () => {
  const { field } = show(["item"], "2026-03-03T12:00:00Z");
  fireEvent.change(field, { target: { value: "stage" } });
  await screen.findAllByRole("option");
  expect(asked).toEqual(["/api/ways/find?text=stage&owners=false&at=2026-03-03T12%3A00%3A00Z"]);
});
