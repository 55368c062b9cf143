import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render, screen, waitFor } from "@testing-library/react";
import type { OutsideCount } from "@/core/access/history";
import { seconds } from "@/core/time/instant";
import { HistoryChart } from "./HistoryChart";

interface Drawn {
  data: { labels: string[]; datasets: { label: string; data: number[] }[] };
  options: { onClick: (event: unknown, elements: { index: number }[]) => void };
}
const drawn: Drawn[] = [];
const destroyed = jest.fn();

// jsdom draws nothing: what is handed to the package is what can be seen here.
jest.mock("chart.js", () => ({
  Chart: class {
    static register() {}
    constructor(_: unknown, config: Drawn) {
      drawn.push(config);
    }
    destroy() {
      destroyed();
    }
  },
}));

const day = (at: string, open: number): OutsideCount => ({ at: seconds(at), open, named: 2, person: 3, group: 1 });
const counts = [day("2026-09-01T00:00:00Z", 4), day("2026-09-02T00:00:00Z", 9), day("2026-09-03T00:00:00Z", 5)];

test("tells the counts in words and in the picture, and goes to the day that is pressed", async () => {
  globalThis.fetch = (async () => ({ ok: true, json: async () => counts })) as never;
  const onDay = jest.fn();
  const { unmount } = render(
    <QueryClientProvider client={new QueryClient()}>
      <HistoryChart onDay={onDay} />
    </QueryClientProvider>,
  );
  expect(await screen.findByText(/10 on 1 Sept? 2026, at most 15 on 2 Sept? 2026, 11 now\./)).toBeTruthy();
  await waitFor(() => expect(drawn).toHaveLength(1));
  expect(drawn[0].data.datasets.map(({ label, data }) => [label, data])).toEqual([
    ["Open links", [4, 9, 5]],
    ["Named links", [2, 2, 2]],
    ["Grants to people", [3, 3, 3]],
    ["Grants to groups", [1, 1, 1]],
  ]);
  drawn[0].options.onClick({}, [{ index: 1 }]);
  expect(onDay).toHaveBeenCalledWith("2026-09-02T00:00:00Z");
  unmount();
  expect(destroyed).toHaveBeenCalled();
});
