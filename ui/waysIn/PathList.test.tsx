import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { pathsBetween } from "@/core/access/ways";
import { cheapestCut } from "@/core/preview/cheapestCut";
import { estateOf, file, grant, group, item, named, person, T } from "@/tests/records";
import { StandpointContext } from "../frame/viewer";
import { CheapestCutPanel } from "./CheapestCutPanel";
import { PathList } from "./PathList";

// The picture's own layout is tested beside it; jsdom lacks what its package needs.
jest.mock("./layout", () => ({
  ...jest.requireActual("./layout"),
  layOut: (paths: { steps: { kind: string; id: string }[] }[]) => ({
    width: 100,
    height: 100,
    steps: paths.flatMap(({ steps }, i) =>
      steps.map((step) => ({ ...step, key: `${i}${step.kind}${step.id}`, x: 0, y: 0 })),
    ),
    links: paths.flatMap(({ steps }, i) =>
      steps.map((step) => ({ key: `${i}>${step.kind}${step.id}`, points: [], middle: { x: 0, y: 0 }, ...step })),
    ),
  }),
}));

const estate = estateOf(
  person("two", "two@quay.example"),
  group("crew", "out", "two"),
  { type: "group", id: "crew", name: "Crew", storeId: "st" },
  item("a", null, { name: "Opera" }),
  file("f", "a", { name: "Plot.pdf" }),
  grant("g", "a", "crew"),
  named("n", "f", ["out@quay.example", "two@quay.example"]),
);
const out = estate.principals.findAddress("out@quay.example")!;
const position = estate.tree.position("f")!;
const sent: unknown[] = [];
let staged: object[] = [];

beforeEach(() => {
  sent.length = 0;
  staged = [];
  globalThis.fetch = (async (path: string, init?: RequestInit) => {
    if (init?.body) sent.push([init.method, JSON.parse(init.body as string)]);
    const cut = () => cheapestCut(estate, { people: [out], position, below: path.includes("below=true") }, T);
    const answer = path.startsWith("/api/ways/cut")
      ? cut()
      : { docketId: "d", changes: staged, preview: null, digest: null, running: null };
    return { ok: true, json: async () => answer };
  }) as never;
});

function show(children: React.ReactNode, mayChange = true) {
  const standpoint = { viewer: { name: "Imre", address: "imre@home.example", mayChange }, now: T, past: null };
  return render(
    <QueryClientProvider client={new QueryClient()}>
      <StandpointContext value={standpoint}>{children}</StandpointContext>
    </QueryClientProvider>,
  );
}

const ways = pathsBetween(estate, T, out, position);
const leave = { action: "leave-group", groupId: "crew", address: "out@quay.example" };

test("each link of a chain can be cut from the picture, and from the list in the same words", async () => {
  show(<PathList ways={ways} />);
  expect(screen.getByText("Person out → Crew → Right to view → Opera → Plot.pdf", { exact: false })).toBeTruthy();
  const controls = screen.getAllByRole("button").map((one) => one.getAttribute("aria-label") ?? one.textContent);
  for (const words of [
    "Remove Person out from the group Crew",
    "Stop Plot.pdf inheriting from above",
    "Remove Person out from this link",
  ])
    expect(controls).toContain(words);
  fireEvent.click(screen.getByRole("button", { name: "Remove from group" }));
  await waitFor(() => expect(sent).toEqual([["POST", { changes: [leave] }]]));
});

test("what is staged is said, and pressing it again takes it out", async () => {
  staged = [{ subject: "crew without out@quay.example", change: leave, itemName: "", audience: "" }];
  show(<PathList ways={ways} />);
  fireEvent.click(await screen.findByRole("button", { name: "Remove from group: staged" }));
  await waitFor(() => expect(sent).toEqual([["DELETE", { subjects: ["crew without out@quay.example"] }]]));
});

test("who may change nothing sees the ways and no controls", () => {
  show(<PathList ways={ways} />, false);
  expect(screen.queryAllByRole("button")).toEqual([]);
});

test("the cheapest cut tells its changes and its loss, and stages them together", async () => {
  show(<CheapestCutPanel item="f" who={{ person: "out@quay.example" }} below={false} onBelow={() => {}} />);
  expect(await screen.findByText(/2 changes close every way in/)).toBeTruthy();
  expect(screen.getByText("take nothing else")).toBeTruthy();
  expect(screen.getByText(/No other set of changes takes less access from others\./)).toBeTruthy();
  expect(screen.getAllByText(/^(Next|Third) best/).map((one) => one.textContent)).toEqual([
    "Next best: 2 changes, take nothing from insiders and 1 access from outsiders",
    "Third best: 2 changes, take nothing from insiders and 1 access from outsiders",
  ]);
  fireEvent.click(screen.getByRole("button", { name: "Add these 2 changes to the docket" }));
  await waitFor(() => expect(sent).toHaveLength(1));
});

test("below an item more may be cut, and the intent is passed on", async () => {
  const onBelow = jest.fn();
  show(<CheapestCutPanel item="f" who={{ person: "out@quay.example" }} below={false} onBelow={onBelow} />);
  fireEvent.click(await screen.findByRole("checkbox"));
  expect(onBelow).toHaveBeenCalledWith(true);
});
