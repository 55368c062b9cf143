import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen } from "@testing-library/react";
import { NuqsTestingAdapter } from "nuqs/adapters/testing";
import { T } from "@/tests/records";
import { OTHER_SCREENS, SECTIONS } from "../frame/screens";
import { StandpointContext } from "../frame/viewer";
import { HelpScreen } from "./HelpScreen";
import { partOf, SCREEN_PARTS } from "./parts";
import { TASKS } from "./tasks";
import { WORDS } from "./words";

function show(searchParams = "") {
  globalThis.fetch = (async () => ({ ok: false, status: 500, json: async () => ({ error: "Not now." }) })) as never;
  const viewer = { name: "Imre", address: "imre@home.example", mayChange: true };
  render(
    <NuqsTestingAdapter searchParams={searchParams} hasMemory>
      <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
        <StandpointContext value={{ viewer, now: T, past: null }}>
          <HelpScreen />
        </StandpointContext>
      </QueryClientProvider>
    </NuqsTestingAdapter>,
  );
}

const search = (value: string) =>
  fireEvent.change(screen.getByRole("searchbox", { name: "Search the help" }), { target: { value } });
const terms = () => screen.queryAllByRole("term").map((term) => term.textContent);
const titles = () => screen.getAllByRole("heading", { level: 2 }).map((title) => title.textContent);

test("tasks, words, keys, the query language and its fields are listed, and what was found", async () => {
  show();
  expect(terms()).toEqual(expect.arrayContaining(["Docket", "Ctrl + K", "Space", "reach:", "lastday:"]));
  expect(titles()).toEqual(expect.arrayContaining(["How to", "The query language", "Query fields: Leavers"]));
  for (const { title } of TASKS) expect(screen.getByText(title)).toBeTruthy();
  expect(await screen.findByText("Not now.")).toBeTruthy();
});

test("it is searched in tasks, words, keys and fields alike; nothing found is said", async () => {
  show();
  search("waiv");
  expect(await screen.findByText("Permission to break a rule, for a reason, until a date.")).toBeTruthy();
  expect(terms()).toEqual(["w", "↓ ↑", "Space", "Shift + ↓ ↑", "Shift + press", "a", "Esc", "Waiver", "waived:"]);
  search("passphrases by owner");
  expect(await screen.findByText("Shut confidential files that are open to anyone")).toBeTruthy();
  expect(terms()).toEqual([]);
  search("zebra");
  expect(await screen.findByText("Nothing found for “zebra”. Try another word.")).toBeTruthy();
});

test("from a screen, its own part comes first, with the way to all of it", async () => {
  show("?on=/trail/watches");
  expect(titles()).toEqual(["Watches", "How to", "What each word means", "Keys"]);
  expect(screen.getByText("Watch what somebody shares outside")).toBeTruthy();
  expect(screen.queryByText("Settle many alerts of one kind")).toBeNull();
  fireEvent.click(screen.getByRole("button", { name: "Show all help" }));
  expect(await screen.findByText("Settle many alerts of one kind")).toBeTruthy();
});

test("each screen of the console has a part, and each part's words are explained", () => {
  const own = ["/my-shares", "/help", "/account"];
  const screens = [...SECTIONS, ...OTHER_SCREENS].map(([, path]) => path).filter((path) => !own.includes(path));
  expect(screens.filter((path) => !partOf(path))).toEqual([]);
  const explained = WORDS.map(([word]) => word);
  expect(SCREEN_PARTS.flatMap(({ words }) => words).filter((word) => !explained.includes(word))).toEqual([]);
  expect(TASKS.flatMap(({ screens: on }) => on).filter((path) => !partOf(path) && !own.includes(path))).toEqual([]);
});
