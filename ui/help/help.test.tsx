import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen } from "@testing-library/react";
import { NuqsTestingAdapter } from "nuqs/adapters/testing";
import { T } from "@/tests/records";
import { StandpointContext } from "../frame/viewer";
import { HelpScreen } from "./HelpScreen";

beforeEach(() => {
  globalThis.fetch = (async () => ({ ok: false, status: 500, json: async () => ({ error: "Not now." }) })) as never;
  const viewer = { name: "Imre", address: "imre@home.example", mayChange: true };
  render(
    <NuqsTestingAdapter>
      <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
        <StandpointContext value={{ viewer, now: T, past: null }}>
          <HelpScreen />
        </StandpointContext>
      </QueryClientProvider>
    </NuqsTestingAdapter>,
  );
});

const search = (value: string) =>
  fireEvent.change(screen.getByRole("searchbox", { name: "Search the help" }), { target: { value } });
const terms = () => screen.queryAllByRole("term").map((term) => term.textContent);

test("words, keys and fields stand there, and what was found", async () => {
  expect(terms()).toEqual(expect.arrayContaining(["Docket", "Ctrl + K", "Space", "reach:"]));
  expect(await screen.findByText("Not now.")).toBeTruthy();
});

test("it is searched in words, keys and fields alike; what isn't there is said", async () => {
  search("waiv");
  expect(await screen.findByText("Leave to break a rule, for a reason, until a date.")).toBeTruthy();
  expect(terms()).toEqual(["Waiver", "w", "↓ ↑", "Space", "Shift + ↓ ↑", "Shift + press", "a", "Esc", "waived:"]);
  search("zebra");
  expect(await screen.findByText("Nothing here speaks of “zebra”. Try another word.")).toBeTruthy();
});
