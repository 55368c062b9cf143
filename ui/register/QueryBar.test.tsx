import { act, fireEvent, render, screen } from "@testing-library/react";
import { parseQuery } from "@/core/query/parse";
import { QueryBar } from "./QueryBar";

globalThis.ResizeObserver = class {
  observe() {}
  unobserve() {}
  disconnect() {}
};

function show(query: string) {
  const onQuery = jest.fn();
  const bar = (text: string) => (
    <QueryBar query={text} problems={parseQuery(text).problems} onQuery={onQuery}>
      <span />
    </QueryBar>
  );
  const { rerender } = render(bar(query));
  const field = screen.getByRole("textbox", { name: "Query" }) as HTMLInputElement;
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

test("what isn't understood is quoted, and the field is marked", () => {
  const { field } = show("poster rech:open");
  expect(screen.getByRole("alert").textContent).toBe(
    "Left out: rech:open, there is no field rech; did you mean reach?",
  );
  expect(field.getAttribute("aria-invalid")).toBe("true");
});

test("the help lists every field with its values, and picking one begins it", () => {
  const { field } = show("poster");
  fireEvent.click(screen.getByRole("button", { name: "What can be asked" }));
  expect(screen.getByText("open, house, named, intake, person, group")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "reach:" }));
  expect(field.value).toBe("poster reach:");
});
