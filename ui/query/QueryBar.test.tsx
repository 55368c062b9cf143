import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, fireEvent, render, screen } from "@testing-library/react";
import { parseQuery } from "@/core/query/parse";
import { REGISTER_QUERY } from "../register/queryKind";
import { QueryBar } from "./QueryBar";

globalThis.ResizeObserver = class {
  observe() {}
  unobserve() {}
  disconnect() {}
};

function show(query: string) {
  const onQuery = jest.fn();
  const client = new QueryClient();
  const bar = (text: string) => (
    <QueryClientProvider client={client}>
      <QueryBar kind={REGISTER_QUERY} query={text} past={null} problems={parseQuery(text).problems} onQuery={onQuery}>
        <span />
      </QueryBar>
    </QueryClientProvider>
  );
  const { rerender } = render(bar(query));
  const field = screen.getByRole("combobox", { name: "Query" }) as HTMLInputElement;
  return { onQuery, field, become: (text: string) => rerender(bar(text)) };
}

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

test("what is typed is asked once the typing rests, or at once on Enter", () => {
  const { onQuery, field } = show("");
  fireEvent.change(field, { target: { value: "reach:op" } });
  fireEvent.change(field, { target: { value: "reach:open " } });
  act(() => void jest.advanceTimersByTime(100));
  expect(onQuery).not.toHaveBeenCalled();
  act(() => void jest.advanceTimersByTime(200));
  expect(onQuery.mock.calls).toEqual([["reach:open"]]);
  fireEvent.change(field, { target: { value: "poster" } });
  fireEvent.submit(field);
  expect(onQuery).toHaveBeenLastCalledWith("poster");
});

test("the field follows the address bar", () => {
  const { field, become } = show("reach:open");
  become("label:public");
  expect(field.value).toBe("label:public");
});

test("what comes back late of what was typed doesn't undo what has been typed since", () => {
  const { onQuery, field, become } = show("");
  for (const value of ["re", "reach:open"]) {
    fireEvent.change(field, { target: { value } });
    act(() => void jest.advanceTimersByTime(300));
  }
  become("re");
  expect(field.value).toBe("reach:open");
  become("reach:open");
  expect([field.value, onQuery.mock.calls]).toEqual(["reach:open", [["re"], ["reach:open"]]]);
  become("re");
  expect(field.value).toBe("re");
});

test("a field that nobody typed in asks nothing", () => {
  const { onQuery } = show("reach:open");
  act(() => void jest.advanceTimersByTime(2_000));
  expect(onQuery).not.toHaveBeenCalled();
});

test("what isn't understood is quoted, and the field is marked", () => {
  const { field } = show("poster rech:open");
  expect(screen.getByRole("alert").textContent).toBe(
    "Left out: rech, there is no field rech; did you mean reach? To search for the text, put it in quotes.Use reach",
  );
  expect(field.getAttribute("aria-invalid")).toBe("true");
});

test("the help lists every field with its values, and picking one begins it", () => {
  const { field } = show("poster");
  fireEvent.click(screen.getByRole("button", { name: "Search help" }));
  expect(screen.getByText("open, house, named, intake, person, group, none")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "reach:" }));
  expect(field.value).toBe("poster reach:");
});

test("fields and values are offered at the caret, chosen by keys, and put in its place", async () => {
  const { field } = show("");
  const type = (value: string) => fireEvent.change(field, { target: { value } });
  type("poster -ri");
  expect(screen.getAllByRole("option").map(({ textContent }) => textContent)).toEqual(["risk:its risk"]);
  fireEvent.keyDown(field, { key: "ArrowDown" });
  fireEvent.keyDown(field, { key: "Enter" });
  expect(field.value).toBe("poster -risk:");
  type("poster -risk:v");
  fireEvent.keyDown(field, { key: "ArrowUp" });
  fireEvent.keyDown(field, { key: "Tab" });
  expect(field.value).toBe("poster -risk:very-high");
  type("reach:");
  fireEvent.keyDown(field, { key: "Escape" });
  expect(screen.queryByRole("option")).toBeNull();
});

test("values of the data are asked of the server, and quoted", async () => {
  jest.useRealTimers();
  const paths: string[] = [];
  globalThis.fetch = (async (path: string) => {
    paths.push(path);
    return { ok: true, json: async () => ({ values: [{ value: "in@home.example", title: "Ida Nox" }] }) };
  }) as never;
  const { field } = show("");
  fireEvent.change(field, { target: { value: "maker:nox" } });
  fireEvent.mouseDown(await screen.findByRole("option", { name: /Ida Nox/ }));
  expect(paths).toEqual(["/api/register/values?field=maker&text=nox"]);
  expect(field.value).toBe('maker:"in@home.example"');
});

test("what was perhaps meant is put in by one press", () => {
  const { field } = show("poster reach:opne");
  fireEvent.click(screen.getByRole("button", { name: "Use open" }));
  expect(field.value).toBe("poster reach:open");
});
