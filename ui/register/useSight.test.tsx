import { act, renderHook } from "@testing-library/react";
import { useSight } from "./useSight";

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

function sight() {
  const seen: number[] = [];
  const hook = renderHook(() => {
    const { sight, onSight } = useSight();
    if (seen.at(-1) !== sight.first) seen.push(sight.first);
    return onSight;
  });
  return { seen, go: (line: number) => act(() => hook.result.current(line, line + 20)), end: hook.unmount };
}

test("within a page nothing moves; the next page is looked at at once", () => {
  const { seen, go } = sight();
  for (const line of [5, 40, 79]) go(line);
  expect(seen).toEqual([0]);
  go(130);
  go(260);
  expect(seen).toEqual([0, 100, 200]);
});

test("of pages that are only passed, none is looked at; where somebody rests, one is", () => {
  const { seen, go } = sight();
  for (let line = 1_000; line <= 90_000; line += 1_000) {
    go(line);
    act(() => jest.advanceTimersByTime(16));
  }
  expect(seen).toEqual([0]);
  act(() => jest.advanceTimersByTime(100));
  expect(seen).toEqual([0, 90_000]);
});

test("who comes back before they rest has never been away", () => {
  const { seen, go, end } = sight();
  go(50_000);
  go(30);
  act(() => jest.advanceTimersByTime(100));
  expect(seen).toEqual([0]);
  go(50_000);
  end();
  expect(jest.getTimerCount()).toBe(0);
});
