import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { NuqsTestingAdapter } from "nuqs/adapters/testing";
import type { ArrivalTold, IntakeTold } from "@/contract/intake";
import { T } from "@/tests/records";
import { OverScreen } from "../clearing/OverScreen";
import { StandpointContext } from "../frame/viewer";
import { CameInScreen } from "./CameInScreen";
import { IntakeScreen } from "./IntakeScreen";

const LINK: IntakeTold = {
  ...{ id: "in", itemId: "plans", itemName: "Stage plans", storeName: "Loading Dock", place: ["Press"], opens: null },
  ...{ ends: null, password: false, files: 5, folders: 1, others: 2, outside: 1, readers: 3, came: 2, lastCame: T },
  answers: { name: "Ida Quill", address: "ida@home.example" },
  can: { linkPassword: true, startTime: true, words: true },
  message: null,
  findings: [{ rule: "intake-window", title: "Intake link without a near end" }],
};
const ARRIVAL: ArrivalTold = {
  ...{ seq: 9, at: T, linkId: "in", itemName: "Stage plans", storeName: "Loading Dock", name: "Invoice.pdf.exe" },
  ...{ size: 1_240_000, sender: "Odo", address: "odo@quay.example", from: "203.0.113.9", mediaType: null },
  ...{ tellsBytes: true, marks: ["double", "runs"] },
};
const OVER = {
  ...{ over: [{ store: "Stacks", broken: 1, spent: 2 }], live: 10, unusedForAYear: 1, next: null, months: [] },
  ...{ trend: [{ at: T, stores: { Stacks: 10 } }], setting: { on: false, most: 200 } },
};
let links: IntakeTold[];
let asked: [method: string, path: string, body: unknown][];

beforeEach(() => {
  links = [LINK];
  asked = [];
  globalThis.fetch = (async (path: string, { method = "GET", body }: RequestInit = {}) => {
    if (method !== "GET") asked.push([method, path, JSON.parse(body as string)]);
    const answer = path.startsWith("/api/intake/came-in")
      ? { arrivals: path.includes("marked") ? [] : [ARRIVAL], total: 1, more: null }
      : path === "/api/intake"
        ? { links, words: "Ada asks for files." }
        : path === "/api/clearing"
          ? OVER
          : { docketId: null, changes: [], preview: null, digest: null, name: null, needsReason: false, running: null };
    return { ok: true, status: 200, json: async () => answer };
  }) as never;
});

const show = (what: React.ReactNode, mayChange = true) =>
  render(
    <NuqsTestingAdapter hasMemory>
      <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
        <StandpointContext
          value={{ viewer: { name: "Ada", address: "ada@home.example", mayChange }, now: T, past: null }}
        >
          {what}
        </StandpointContext>
      </QueryClientProvider>
    </NuqsTestingAdapter>,
  );
const staged = () => asked.find(([, path]) => path === "/api/tray")?.[2];

async function choose(act: string) {
  const menu = await screen.findByRole("button", { name: "What to do with the intake link on Stage plans" });
  fireEvent.keyDown(menu, { key: "Enter" });
  fireEvent.click(await screen.findByRole("menuitem", { name: act }));
}

test("a link tells its window, its words, the state of its folder, what came and who is responsible", async () => {
  show(<IntakeScreen />);
  const row = await screen.findByRole("row", { name: /Stage plans/ });
  for (const words of [
    "without an end",
    "without a password",
    "the store’s own text",
    "mixed: 1 subfolder; 2 other shares (1 outside)",
  ])
    expect(row.textContent).toContain(words);
  expect(row.textContent).toContain("Intake link without a near end");
  expect(screen.getByRole("link", { name: "2 files" }).getAttribute("href")).toBe("/register/intake/came-in?link=in");
});

test("its words begin with the house’s own, and go into the tray as they were written", async () => {
  show(<IntakeScreen />);
  await choose("Change what visitors read…");
  const field = await screen.findByLabelText<HTMLTextAreaElement>("Words");
  expect(field.value).toBe("Ada asks for files.");
  fireEvent.change(field, { target: { value: "Ada asks for your plans." } });
  fireEvent.click(screen.getByRole("button", { name: "Add it to the docket" }));
  await waitFor(() =>
    expect(staged()).toMatchObject({
      changes: [{ action: "set-words", shareId: "in", message: "Ada asks for your plans." }],
    }),
  );
});

test("it is moved to a folder of a name of one’s own; what its store can’t do isn’t offered", async () => {
  links = [{ ...LINK, can: { linkPassword: false, startTime: false, words: false } }];
  show(<IntakeScreen />);
  await choose("Move it to a folder of its own…");
  fireEvent.change(await screen.findByLabelText("Name of the folder"), { target: { value: "Plans in" } });
  fireEvent.click(screen.getByRole("button", { name: "Add it to the docket" }));
  await waitFor(() =>
    expect(staged()).toMatchObject({ changes: [{ action: "move-intake", shareId: "in", folder: "Plans in" }] }),
  );
  fireEvent.keyDown(screen.getByRole("button", { name: /^What to do/ }), { key: "Enter" });
  const off = await screen.findByRole("menuitem", { name: "Set its start…" });
  expect(off.getAttribute("aria-disabled")).toBe("true");
});

test("whoever may only look is offered nothing", async () => {
  show(<IntakeScreen />, false);
  await screen.findByText("Stage plans");
  expect(screen.queryByRole("button", { name: /^What to do/ })).toBeNull();
});

test("a file that came in stands with its marks, and leads to its event", async () => {
  show(<CameInScreen />);
  const row = await screen.findByRole("row", { name: /Invoice/ });
  for (const words of ["1.2 MB", "has the ending of a document before its own", "odo@quay.example", "203.0.113.9"])
    expect(row.textContent).toContain(words);
  expect(row.textContent).not.toContain("Can run when it is opened");
  expect(screen.getByRole("link", { name: "Invoice.pdf.exe" }).getAttribute("href")).toBe(
    `/trail?share=in&verb=sent-in&from=${T}&to=${T + 1}`,
  );
  fireEvent.click(screen.getByLabelText("Only those that stand out"));
  expect(await screen.findByText(/Nothing stands out/)).toBeTruthy();
});

test("links that are over are staged at once; the monthly clearing is saved with its cap", async () => {
  show(<OverScreen />);
  expect(await screen.findByText("3 links are over and still there")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Add their revokes to the docket" }));
  await waitFor(() => expect(staged()).toMatchObject({ changes: [{ action: "clear" }] }));
  fireEvent.click(screen.getByLabelText("Revoke them automatically once a month"));
  fireEvent.change(screen.getByRole("spinbutton"), { target: { value: "50" } });
  fireEvent.click(screen.getByRole("button", { name: "Save" }));
  await waitFor(() => expect(asked.at(-1)).toEqual(["PUT", "/api/clearing", { on: true, most: 50 }]));
});
