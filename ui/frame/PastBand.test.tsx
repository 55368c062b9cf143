import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { act, render, screen } from "@testing-library/react";
import { PastBand } from "./PastBand";

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

test("a past day that is long in coming is said to be on its way, and nothing can be changed once it is there", async () => {
  let arrive: (value: string) => void = () => {};
  const Screen = () => {
    useQuery({ queryKey: ["past"], queryFn: () => new Promise<string>((resolve) => (arrive = resolve)) });
    return <PastBand past="2026-03-03T12:00:00Z" onNow={() => {}} />;
  };
  const isOnItsWay = () => screen.queryByText(/Going back to that day/) !== null;
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Screen />
    </QueryClientProvider>,
  );
  expect([isOnItsWay(), screen.getByRole("status").textContent]).toEqual([
    false,
    expect.stringContaining("3 Mar 2026"),
  ]);
  await act(() => jest.advanceTimersByTimeAsync(400));
  expect(isOnItsWay()).toBe(false);
  await act(() => jest.advanceTimersByTimeAsync(200));
  expect(isOnItsWay()).toBe(true);
  expect(screen.getByRole("button", { name: "Back to now" })).toBeTruthy();
  await act(async () => {
    arrive("here");
    await jest.advanceTimersByTimeAsync(100);
  });
  expect(isOnItsWay()).toBe(false);
  expect(screen.getByText(/Nothing can be changed from here/)).toBeTruthy();
});
