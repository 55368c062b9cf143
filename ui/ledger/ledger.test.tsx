import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { NuqsTestingAdapter } from "nuqs/adapters/testing";
import type { ReactNode } from "react";
import type { LedgerEntry } from "@/core/ledger/chain";
import type { Proof } from "@/core/ledger/check";
import { type Checkpoints, ledgerOperations, type Packs } from "@/contract/ledger";
import type { Witness } from "@/core/evidence/witness";
import type { Preview } from "@/core/preview/preview";
import type { ChangeState, DocketState } from "@/core/changes/states";
import type { DocketView, Receipt } from "@/core/preview/docketView";
import { T } from "@/tests/records";
import { StandpointContext } from "../frame/viewer";
import { DocketScreen } from "./DocketScreen";
import { HandWorkScreen } from "./HandWorkScreen";
import { LedgerScreen } from "./LedgerScreen";
import { PacksScreen } from "./PacksScreen";
import { WitnessesScreen } from "./WitnessesScreen";
import { NoticesScreen } from "./NoticesScreen";

let answers: Record<string, unknown>;
const asked: string[] = [];

beforeEach(() => {
  asked.length = 0;
  globalThis.fetch = (async (path: string) => {
    asked.push(path);
    const answer = answers[path.split("?")[0]];
    return {
      ok: answer !== undefined,
      status: answer === undefined ? 500 : 200,
      json: async () => answer ?? { error: "Its log says what." },
    };
  }) as never;
});

const show = (screen: ReactNode) =>
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <NuqsTestingAdapter hasMemory>
        <StandpointContext
          value={{ viewer: { name: "Imre", address: "imre@home.example", mayChange: true }, now: T, past: null }}
        >
          {screen}
        </StandpointContext>
      </NuqsTestingAdapter>
    </QueryClientProvider>,
  );

const entry = (seq: number, kind: string, body: unknown): LedgerEntry => ({
  seq,
  at: "2026-11-23T09:14:00Z",
  actor: "imre.varga@wrenmoor.example",
  kind,
  body,
  previous: "0".repeat(64),
  hash: "a33b7a043c167e21".repeat(4),
});

const witness = (more: Partial<Witness>): Witness => ({
  ...{
    id: 1,
    kind: "folder",
    to: "/mnt/kept",
    addedAt: "2026-11-01T09:00:00Z",
    sentSize: 0,
    sentAt: null,
    error: null,
  },
  ...more,
});
const newest = { size: 9, at: "2026-11-23T09:00:00Z", note: "tight-latch/h\n9\nroot\n\n— tight-latch/h signature\n" };
let checkpoints: Checkpoints;
beforeEach(() => {
  checkpoints = { newest, count: 4, keys: ["tight-latch/h+00000001+AQ=="], witnesses: [] };
});

function showLedger(proof: Proof, entries: LedgerEntry[] = [], next: number | null = null) {
  const docket = {
    id: "d1",
    state: "done",
    madeBy: "imre.varga@wrenmoor.example",
    appliedAt: "2026-11-23T09:10:00Z",
  };
  answers = {
    "/api/ledger/proof": proof,
    "/api/ledger": { entries, next },
    "/api/ledger/checkpoints": checkpoints,
    "/api/dockets": { dockets: [docket] },
  };
  show(<LedgerScreen />);
}

test("the head says that the record is unbroken, with its root", async () => {
  showLedger({ unbroken: true, entries: 12_408, root: "5dc9".repeat(16) });
  expect(await screen.findByText("12,408 entries, unbroken.")).toBeTruthy();
  expect(screen.getByText("5dc95dc95dc95dc9")).toBeTruthy();
});

test("the head says up to where the ledger is held outside, or that it is nowhere", async () => {
  showLedger({ unbroken: true, entries: 9, root: "0".repeat(64) });
  expect(
    await screen.findByText(
      /^No witness holds a checkpoint yet, so anyone who can write to the database could rewrite the whole ledger\./,
    ),
  ).toBeTruthy();
  cleanup();
  const sentAt = "2026-11-23T09:01:00Z";
  checkpoints.witnesses = [witness({}), witness({ id: 2, kind: "log", to: "", sentSize: 9, sentAt })];
  showLedger({ unbroken: true, entries: 9, root: "0".repeat(64) });
  expect(await screen.findByText(/^Held by witnesses up to entry 9 \(2 witnesses\), since 23 Nov/)).toBeTruthy();
});

test("that the first checkpoint went out to a witness is said without loading the page anew", async () => {
  jest.useFakeTimers();
  try {
    checkpoints.witnesses = [witness({})];
    showLedger({ unbroken: true, entries: 9, root: "0".repeat(64) });
    await act(() => jest.advanceTimersByTimeAsync(1_000));
    expect(screen.getByText(/^No witness holds a checkpoint yet/)).toBeTruthy();
    const sent = witness({ sentSize: 9, sentAt: "2026-11-23T09:15:00Z" });
    answers["/api/ledger/checkpoints"] = { ...checkpoints, witnesses: [sent] };
    await act(() => jest.advanceTimersByTimeAsync(60_000));
    expect(screen.getByText(/^Held by witnesses up to entry 9 \(1 witness\)/)).toBeTruthy();
  } finally {
    jest.useRealTimers();
  }
});

test("witnesses are told with what they hold and what hinders them, and one is added", async () => {
  checkpoints.witnesses = [
    witness({ sentSize: 7, sentAt: "2026-11-22T09:00:00Z" }),
    witness({ id: 2, kind: "webhook", to: "", error: "The webhook answered 500." }),
  ];
  const added = witness({ id: 3, kind: "mail", to: "auditor@board.example" });
  const after = { ...checkpoints, witnesses: [...checkpoints.witnesses, added] };
  answers = { "/api/ledger/checkpoints": checkpoints, "/api/ledger/witnesses": after };
  expect(ledgerOperations.checkpoints.answer.parse(checkpoints)).toEqual(checkpoints);
  show(<WitnessesScreen />);
  expect(await screen.findByText(/^entry 7, since 22 Nov/)).toBeTruthy();
  expect(screen.getByText("2 entries more follow with the next one")).toBeTruthy();
  expect(screen.getByText("The webhook answered 500. It is tried again.")).toBeTruthy();
  expect(screen.getAllByRole("button", { name: /^Remove/ })).toHaveLength(1);
  expect(screen.getByText("tight-latch/h+00000001+AQ==")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Add a witness" }));
  fireEvent.change(screen.getByLabelText("Mail address", { selector: "input[type=email]" }), {
    target: { value: "auditor@board.example" },
  });
  fireEvent.click(screen.getByRole("button", { name: "Add witness" }));
  await waitFor(() => expect(asked.at(-1)).toBe("/api/ledger/witnesses"));
  expect(await screen.findByRole("button", { name: "Add a witness" })).toBeTruthy();
  expect(screen.getByRole("cell", { name: "auditor@board.example" })).toBeTruthy();
});

test("packs are listed with where to get them; one is asked for, its progress told, and stopped", async () => {
  const pack = { seq: 9, at: "2026-11-23T09:00:00Z", by: "ada@home.example", from: "2026-10-24", to: "2026-11-23" };
  const kept: Packs = {
    packs: [
      { ...pack, scope: "", pseudonyms: false, bytes: 861_272 },
      { ...pack, seq: 4, scope: "label:restricted", pseudonyms: true, bytes: null },
    ],
    making: null,
    failure: "the disk is full",
  };
  expect(ledgerOperations.packs.answer.parse(kept)).toEqual(kept);
  answers = { "/api/ledger/packs": kept };
  show(<PacksScreen />);
  const link = await screen.findByRole<HTMLAnchorElement>("link", { name: /^0\.9 MB/ });
  expect(link.getAttribute("href")).toBe("/api/ledger/packs/9");
  expect(screen.getByText("no longer kept")).toBeTruthy();
  expect(screen.getByText(/couldn’t be made: the disk is full/)).toBeTruthy();
  const making = { from: "2026-10-24", to: "2026-11-23", file: "events.csv", done: 6, of: 24 };
  answers["/api/ledger/packs"] = answers["/api/ledger/packs/stop"] = { ...kept, making };
  fireEvent.click(screen.getByRole("button", { name: "Make pack" }));
  expect(await screen.findByText(/Making the pack of 2026-10-24 to 2026-11-23: events.csv/)).toBeTruthy();
  expect(screen.getByRole("progressbar").getAttribute("aria-valuenow")).toBe("6");
  fireEvent.click(screen.getByRole("button", { name: "Stop" }));
  await waitFor(() => expect(asked).toContain("/api/ledger/packs/stop"));
});

test("without a witness the page says what could happen", async () => {
  answers = { "/api/ledger/checkpoints": { ...checkpoints, newest: null, keys: [] } };
  show(<WitnessesScreen />);
  expect(
    await screen.findByText(
      /^There are no witnesses yet: anyone who can write to the database could rewrite the ledger unseen\. Add a witness here, or set LATCH_WITNESSES to keep checkpoints in a folder\./,
    ),
  ).toBeTruthy();
});

test("a broken record is said with the entry at which it breaks, and can be verified again", async () => {
  showLedger({ unbroken: false, seq: 4, why: "its content is not what was written" });
  expect(await screen.findByText("Broken at entry 4: its content is not what was written.")).toBeTruthy();
  answers["/api/ledger/proof"] = { unbroken: true, entries: 9, root: "0".repeat(64) };
  fireEvent.click(screen.getByRole("button", { name: "Verify again" }));
  expect(await screen.findByText("9 entries, unbroken.")).toBeTruthy();
});

test("entries are told in words, and older ones are asked for from the last that is shown", async () => {
  showLedger(
    { unbroken: true, entries: 9, root: "0".repeat(64) },
    [
      entry(9, "signed-in", {}),
      entry(8, "store-read", { store: "Stacks", changed: 3_488, first: true }),
      entry(7, "docket-applied", { docket: "d1", changes: [{}, {}] }),
    ],
    7,
  );
  expect(await screen.findByText("Signed in")).toBeTruthy();
  expect(screen.getByText("Store: Stacks; Changed: 3,488; First: yes")).toBeTruthy();
  expect(screen.getByText("Docket: d1; Changes: 2")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Show older entries" }));
  await screen.findAllByText("Signed in");
  expect(asked.filter((path) => path.startsWith("/api/ledger?")).at(-1)).toMatch(/before=7&/);
});

test("the ledger is searched, and says so where nothing is found", async () => {
  showLedger({ unbroken: true, entries: 9, root: "0".repeat(64) });
  fireEvent.change(await screen.findByLabelText("Search the ledger"), { target: { value: "brass" } });
  expect(await screen.findByText(/^No entries found for “brass”/)).toBeTruthy();
  expect(asked.at(-1)).toMatch(/q=brass/);
});

test("dockets lead to their receipts", async () => {
  showLedger({ unbroken: true, entries: 0, root: "0".repeat(64) });
  expect((await screen.findByRole("link", { name: "Docket of 23 Nov 2026, 09:10" })).getAttribute("href")).toBe(
    "/ledger/dockets/d1",
  );
});

const receipt = (more: Partial<Receipt>): Receipt => ({
  subject: "s1",
  itemName: "Passport scans",
  audience: "Whoever has the address",
  change: { action: "revoke", shareId: "s1" },
  state: "done",
  tries: 1,
  sentAt: "2026-11-23T09:13:00Z",
  answeredAt: "2026-11-23T09:14:00Z",
  answer: "Done by the store.",
  isChecked: true,
  request: "{}",
  response: null,
  undone: null,
  probe: "The address answers: no longer available.",
  passphrase: null,
  tell: [],
  ...more,
});

const NO_COUNTS = { staged: 0, sending: 0, done: 0, failed: 0, "set-aside": 0, "by-hand": 0 };

/** A docket as its page asks for it. */
function docket(
  state: DocketState,
  counts: Partial<Record<ChangeState, number>>,
  receipts: Receipt[],
  more: Partial<DocketView> & { unchecked?: number } = {},
): DocketView {
  const { unchecked = 0, ...rest } = more;
  return {
    progress: { docketId: "d1", state, counts: { ...NO_COUNTS, ...counts }, unchecked, held: [] },
    origin: "tray",
    madeBy: "imre.varga@wrenmoor.example",
    name: null,
    reason: null,
    needsReason: false,
    undoes: null,
    askedBy: null,
    reasons: [],
    approvedBy: null,
    passphrases: 0,
    found: receipts.length,
    preview: null,
    digest: rest.preview ? "d".repeat(64) : null,
    receipts,
    ...rest,
  };
}

test("a docket shows a receipt for each change, failures and tries included", async () => {
  const receipts = [
    receipt({}),
    receipt({ subject: "s2", state: "failed", tries: 5, answer: "Stacks can't be reached", probe: null }),
    receipt({
      subject: "s3",
      state: "set-aside",
      change: { action: "set-expiry", shareId: "s3", expiresAt: "2026-12-24T23:59:59Z" },
      answer: "The end date is in the past.",
    }),
  ];
  answers = { "/api/dockets/d1": docket("done", { done: 1, failed: 1, "set-aside": 1 }, receipts) };
  show(<DocketScreen id="d1" />);
  expect(await screen.findByRole("heading", { name: "Docket of 3 changes: not closed yet" })).toBeTruthy();
  expect(screen.getByText("1 done, 1 failed, 1 skipped, 0 to do. Made by imre.varga@wrenmoor.example.")).toBeTruthy();
  expect(screen.getAllByRole("row")).toHaveLength(4);
  expect(screen.getByText("5 tries")).toBeTruthy();
  expect(screen.getByText("End 24 Dec 2026")).toBeTruthy();
  expect(screen.getByText("Stacks can't be reached")).toBeTruthy();
});

test("a passphrase is shown once, to be handed over", async () => {
  const receipts = [receipt({ change: { action: "set-password", shareId: "s1" }, passphrase: "c1" })];
  answers = {
    "/api/dockets/d1": docket("done", { done: 1 }, receipts),
    "/api/passphrases/c1": { passphrase: "umber-cradle-vixen-plod-sift-yarn" },
  };
  show(<DocketScreen id="d1" />);
  fireEvent.click(await screen.findByRole("button", { name: "Show the passphrase once" }));
  expect(await screen.findByText("umber-cradle-vixen-plod-sift-yarn")).toBeTruthy();
  expect(screen.queryByRole("button", { name: "Show the passphrase once" })).toBeNull();
});

test("what is to be done by hand is said, listed by owner, and said to be done", async () => {
  const receipts = [receipt({ state: "by-hand", answer: "This store is known only from a file: change it by hand." })];
  answers = {
    "/api/dockets/d1": docket("done", { "by-hand": 1 }, receipts),
    "/api/dockets/d1/by-hand": {
      work: [
        { subject: "s1", owner: "Ada", where: "Shed / Cupboard", itemName: "Map", audience: "Bo", words: "Revoke" },
        { subject: "s2", owner: "", where: "Shed", itemName: "Chart", audience: "Cy", words: "Set a password" },
      ],
    },
  };
  show(<DocketScreen id="d1" />);
  expect(await screen.findByText(/1 change to be done by hand/)).toBeTruthy();
  const heading = "Docket of 1 change: the rest has to be done by hand";
  expect(screen.getByRole("heading", { name: heading })).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "s1 is done" }));
  await waitFor(() => expect(asked).toContain("/api/dockets/d1/by-hand"));
  cleanup();
  show(<HandWorkScreen id="d1" />);
  expect(await screen.findByRole("heading", { name: "Ada" })).toBeTruthy();
  expect(screen.getByRole("heading", { name: "No known owner" })).toBeTruthy();
  expect(screen.getByText(/2 changes in stores known only from a file/)).toBeTruthy();
  expect(screen.getByRole("link", { name: "Export CSV" }).getAttribute("href")).toBe("/api/dockets/d1/by-hand.csv");
});

const none = {
  loses: { count: 0, names: [] },
  keeps: { count: 0, names: [] },
  gains: { count: 0, names: [] },
  ways: [],
};
const preview: Preview = {
  counts: { "set-password": 1 },
  people: [],
  anyone: none,
  house: none,
  organisations: [],
  items: [],
  itemsLostOutside: 0,
  addressesStopping: 0,
  passwordsReplaced: 0,
  impossible: [],
  later: [{ shareId: "s1", itemName: "Passport scans", on: "7 Dec 2026", byOrder: true }],
  reopened: [],
  tighter: [{ shareId: "s1", itemName: "Passport scans", words: "needs a password, which has to be handed over" }],
  back: [],
  newAddresses: [],
  careful: { insiders: [], running: [] },
};

test("a docket that was discarded has nothing to do; one that waits for a store says which and since when", async () => {
  const discarded = docket("dropped", { staged: 27 }, []);
  answers = { "/api/dockets/d1": discarded };
  show(<DocketScreen id="d1" />);
  expect(await screen.findByText(/Nothing was applied. Made by/)).toBeTruthy();
  expect(screen.getByRole("heading", { name: "Docket of 27 changes: discarded" })).toBeTruthy();
  cleanup();
  const held = [{ store: "Stacks", why: "Stacks can't be reached.", since: "2026-11-23T09:14:00Z" }];
  const waiting = docket("applying", { staged: 3 }, []);
  answers = { "/api/dockets/d1": { ...waiting, progress: { ...waiting.progress, held } } };
  show(<DocketScreen id="d1" />);
  expect(
    await screen.findByText("Waiting for Stacks since 23 Nov 2026, 09:14 UTC: Stacks can't be reached."),
  ).toBeTruthy();
});

test("a docket that waits shows what it would do, and is applied or sent away", async () => {
  const receipts = [receipt({ state: "staged", answer: null, probe: null })];
  const name = "Open link without a password: grace is over";
  answers = {
    "/api/dockets/d1": docket("waiting", { staged: 1 }, receipts, { name, preview }),
    "/api/dockets/d1/drop": {},
    "/api/tray": {
      docketId: null,
      changes: [],
      preview: null,
      digest: null,
      name: null,
      needsReason: false,
      running: null,
    },
  };
  show(<DocketScreen id="d1" />);
  expect(await screen.findByText("needs a password, which has to be handed over")).toBeTruthy();
  expect(
    screen.getByText("Tight Latch will revoke it on 7 Dec 2026, because its store can’t keep that end date"),
  ).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Discard" }));
  await waitFor(() => expect(asked).toContain("/api/dockets/d1/drop"));
});

test("what needs a second pair of eyes is asked for, and approved by somebody else", async () => {
  const receipts = [receipt({ state: "staged", answer: null, probe: null })];
  const reasons = ["it has more than 0 changes"];
  const tray = { docketId: null, changes: [], preview: null, digest: null, running: null };
  const view = (more: Partial<DocketView>) => {
    answers = {
      "/api/dockets/d1": docket("waiting", { staged: 1 }, receipts, { reasons, preview, ...more }),
      "/api/tray": tray,
    };
    show(<DocketScreen id="d1" />);
  };
  view({ madeBy: "imre@home.example" });
  expect(await screen.findByRole("button", { name: "Ask to apply 1 change" })).toBeTruthy();
  cleanup();
  view({ madeBy: "imre@home.example", askedBy: "imre@home.example" });
  expect(await screen.findByText(/You made it, so you can’t approve it yourself\./)).toBeTruthy();
  expect(screen.queryByRole("button", { name: /apply/ })).toBeNull();
  cleanup();
  view({ madeBy: "ada@home.example", askedBy: "ada@home.example" });
  expect(await screen.findByRole("button", { name: "Approve and apply 1 change" })).toBeTruthy();
});

test("what was done is undone, all or what is marked, and what can't be is told", async () => {
  const receipts = [
    receipt({}),
    receipt({ subject: "s2", undone: { docketId: "d9", isOver: true } }),
    receipt({ subject: "s3", state: "failed" }),
  ];
  answers = {
    "/api/dockets/d1": docket("done", { done: 2, failed: 1 }, receipts, { unchecked: 1 }),
    "/api/dockets/d1/undo": { docketId: "d2", not: [{ subject: "s4", itemName: "Map", why: "It is gone." }] },
    "/api/dockets/d1/retry": {},
    "/api/tray": {
      docketId: null,
      changes: [],
      preview: null,
      digest: null,
      name: null,
      needsReason: false,
      running: null,
    },
  };
  show(<DocketScreen id="d1" />);
  const boxes = await screen.findAllByRole("checkbox", { name: /^Mark .* to be undone$/ });
  expect(boxes.map((box) => (box as HTMLInputElement).disabled)).toEqual([false, true, true]);
  expect(screen.getByRole("link", { name: "Undone" }).getAttribute("href")).toBe("/ledger/dockets/d9");
  fireEvent.click(boxes[0]);
  fireEvent.click(screen.getByRole("button", { name: "Undo 1 marked" }));
  const link = await screen.findByRole("link", { name: "Preview it and apply it" });
  expect(link.getAttribute("href")).toBe("/ledger/dockets/d2");
  expect(screen.getByText("Map can\u2019t be undone: It is gone.")).toBeTruthy();
  expect(screen.getByText("1 change failed; 1 change could not be confirmed.")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Try and probe again" }));
  await waitFor(() => expect(asked).toContain("/api/dockets/d1/retry"));
});

test("a long docket is shown in pages, and by state", async () => {
  answers = { "/api/dockets/d1": docket("done", { done: 900, failed: 3 }, [receipt({})], { found: 903 }) };
  show(<DocketScreen id="d1" />);
  expect(await screen.findByText("1 to 200 of 903")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Later" }));
  await waitFor(() => expect(asked).toContain("/api/dockets/d1?from=200"));
  fireEvent.click(await screen.findByRole("button", { name: "Failed 3" }));
  await waitFor(() => expect(asked).toContain("/api/dockets/d1?state=failed"));
});

test("owners are told in one mail each, in words that can be changed; who has been told is not told again", async () => {
  const line = { itemName: "Map", place: "Tour", words: "a share of it was revoked", newLink: null };
  answers = {
    "/api/dockets/d1/notices": {
      name: null,
      reason: null,
      telling: {
        owners: [
          { address: "ada@home.example", name: "Ada", lines: [line] },
          { address: "bo@home.example", name: "Bo", lines: [line, line] },
        ],
        recipients: [],
      },
      sent: [{ audience: "owners", address: "ada@home.example", state: "sent" }],
      count: 1,
    },
  };
  show(<NoticesScreen id="d1" />);
  expect((await screen.findByRole("checkbox", { name: "Tell Ada" })).hasAttribute("disabled")).toBe(true);
  fireEvent.change(screen.getByLabelText("Subject"), { target: { value: "Your files" } });
  fireEvent.click(screen.getByRole("button", { name: /^Bo/ }));
  expect(screen.getByRole("region", { name: "The mail to Bo" }).textContent).toContain("Your files");
  fireEvent.click(screen.getByRole("button", { name: "Send 1 mail" }));
  expect(await screen.findByText("1 mail being sent.")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Recipients, 0" }));
  expect(await screen.findByText(/Nobody had access by name/)).toBeTruthy();
});

test("what the server could not tell is said in its words", async () => {
  answers = {};
  show(<DocketScreen id="d1" />);
  expect((await screen.findByRole("alert")).textContent).toBe("Its log says what.");
});
