import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import type { SavedQuery, RegisterSettings } from "@/core/register/saved";
import { SavedQueries } from "./SavedQueries";

globalThis.ResizeObserver = class {
  observe() {}
  unobserve() {}
  disconnect() {}
};

const SETTINGS: RegisterSettings = {
  table: null,
  start: "k1",
  startView: "q=reach%3Aopen",
  looked: "2026-11-23T09:14:00Z",
  lookedBefore: "2026-11-20T16:05:30Z",
};
const queries: SavedQuery[] = [
  { id: "k1", name: "Open links", view: "q=reach%3Aopen&sort=ends", isOwn: true, forAll: false, count: 637 },
  { id: "k2", name: "Friday", view: "q=rule%3Adormant", isOwn: false, forAll: true, count: 199 },
];

function show(mayChange = true) {
  const asked: [string, string, unknown][] = [];
  globalThis.fetch = (async (path: string, { method, body }: RequestInit) => {
    asked.push([method!, path, body && JSON.parse(body as string)]);
    return { ok: true, json: async () => ({ queries }) };
  }) as never;
  const onView = jest.fn();
  render(
    <QueryClientProvider client={new QueryClient()}>
      <SavedQueries view="q=poster&group=item" settings={SETTINGS} past={null} {...{ mayChange, onView }} />
    </QueryClientProvider>,
  );
  fireEvent.click(screen.getByRole("button", { name: "Saved queries" }));
  return { asked, onView };
}

test("each is told with how many shares it finds now, and is gone to by its name", async () => {
  const { onView } = show();
  fireEvent.click(await screen.findByRole("button", { name: "Open links" }));
  expect(onView).toHaveBeenCalledWith("q=reach%3Aopen&sort=ends");
  expect(screen.queryByText("637")).toBeNull();
});

test("what is new since the last look is a query like others", async () => {
  const { onView } = show();
  fireEvent.click(await screen.findByRole("button", { name: "New since my last visit" }));
  expect(Object.fromEntries(new URLSearchParams(onView.mock.calls[0][0]))).toEqual({
    q: "made:>=2026-11-20T16:05Z",
    sort: "made",
  });
});

test("the query as it stands is kept under a name, for oneself or for all", async () => {
  const { asked } = show();
  expect(await screen.findByText("637")).toBeTruthy();
  fireEvent.change(screen.getByRole("textbox", { name: "Name for this query" }), {
    target: { value: "Posters" },
  });
  fireEvent.click(screen.getByRole("checkbox", { name: "for all" }));
  fireEvent.click(screen.getByRole("button", { name: "Save" }));
  await waitFor(() =>
    expect(asked).toContainEqual([
      "POST",
      "/api/queries",
      { name: "Posters", forAll: true, view: "q=poster&group=item" },
    ]),
  );
});

test("one's own can be dropped, any can be begun with; the one that is begun with says so", async () => {
  const { asked } = show();
  expect((await screen.findByRole("button", { name: "Your start view" })).getAttribute("aria-pressed")).toBe("true");
  fireEvent.click(screen.getByRole("button", { name: "Start with this" }));
  fireEvent.click(screen.getByRole("button", { name: "Delete Open links" }));
  expect(screen.queryByRole("button", { name: "Drop Friday" })).toBeNull();
  await waitFor(() => expect(asked).toContainEqual(["DELETE", "/api/queries/k1", undefined]));
  expect(asked).toContainEqual(["PUT", "/api/register/settings", { start: "k2" }]);
});

test("whoever may only look keeps queries for themselves alone", async () => {
  show(false);
  expect(await screen.findByText("637")).toBeTruthy();
  expect(screen.queryByRole("checkbox", { name: "for all" })).toBeNull();
});
