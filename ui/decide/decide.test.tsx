import { fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import type { DecidedLine, DecidersPage } from "@/contract/decisions";
import { DAY } from "@/core/time/instant";
import { inDays, T } from "@/tests/records";
import { DecideScreen } from "./DecideScreen";
import { groupsOf } from "./grouping";

const line = (shareId: string, more: Partial<DecidedLine> = {}): DecidedLine => ({
  ...{
    shareId,
    itemName: `Item ${shareId}`,
    place: "Stacks / Touring",
    sentence: "Anyone can look at this file.",
    before: null,
  },
  ...{ audience: "Whoever has the address", audienceKey: "open", audienceTitle: "Whoever has the address" },
  ...{ label: "confidential", files: 1, lastUsed: T - 9 * DAY, isUseTold: true, usedBy: 2 },
  ...{ suggest: "tighten", suggestedUntil: T + 30 * DAY },
  reasons: [{ rule: "open-password", title: "Open link without a password", reason: "The address alone opens it." }],
  tightenings: [
    { key: "suggested", words: "Set a password and end 4 Nov 2026" },
    { key: "password", words: "Set a password" },
  ],
  ...{ state: "open", decision: null, isSettled: false, asked: `asked-${shareId}`, passes: 2, steps: [] },
  ...more,
});
let page: DecidersPage;
let sent: { path: string; body: Record<string, unknown> }[];
let answers: Record<string, object>;

beforeEach(() => {
  sent = [];
  answers = {};
  page = {
    ...{ round: 1, name: "Open links", note: "Before the audit", state: "open", person: "ida@home.example" },
    ...{ closes: T + 14 * DAY, by: "share", undecided: "end-date", undecidedDays: 30, carriedOut: "finished" },
    ...{ limitDays: 180, finished: null, total: 1, open: 1, lines: [line("s1")], files: {} },
  };
  globalThis.fetch = (async (path: string, init: RequestInit) => {
    const body = JSON.parse(init.body as string);
    sent.push({ path, body });
    if (path === "/api/decide/page") return { ok: true, json: async () => page };
    return { ok: true, json: async () => answers[path] ?? { decided: 1, not: [] } };
  }) as never;
});
async function show() {
  location.hash = "#TOKEN";
  render(<DecideScreen now={T} />);
  await screen.findByRole("heading", { level: 1 });
}
const sentTo = (path: string) => sent.filter((one) => one.path === `/api/decide/${path}`).map(({ body }) => body);
const press = (name: string | RegExp) => fireEvent.click(screen.getByRole("button", { name }));

test("it says how many shares need a decision, by when, how long that takes, and what happens otherwise", async () => {
  page = { ...page, total: 9, open: 9, lines: Array.from({ length: 9 }, (_, i) => line(`s${i}`, { place: `P${i}` })) };
  await show();
  expect(screen.getByRole("heading", { level: 1 }).textContent).toBe("9 of your shares need a decision by 19 Oct 2026");
  expect(
    screen.getByText(/It takes about three minutes. Anything you don’t decide by then ends 30 days later./),
  ).toBeTruthy();
  expect(screen.getAllByText("Last used 9 days ago, in the last 90 days by 2 people.")).toHaveLength(9);
  expect(screen.getAllByText(/Tighten it: open link without a password./)).toHaveLength(9);
});

test("a suggestion is never chosen beforehand: each decision takes a press of its own", async () => {
  await show();
  press("Tighten…");
  const submit = screen.getByRole("button", { name: "Tighten" });
  expect((submit as HTMLButtonElement).disabled).toBe(true);
  expect(screen.getAllByRole<HTMLInputElement>("radio").map(({ checked }) => checked)).toEqual([false, false]);
  fireEvent.click(screen.getByLabelText("Set a password"));
  fireEvent.click(submit);
  await waitFor(() =>
    expect(sentTo("decide")).toEqual([
      {
        token: "TOKEN",
        lines: [{ shareId: "s1", asked: "asked-s1" }],
        decision: { decision: "tighten", way: "password" },
      },
    ]),
  );
});

test("keeping begins with the day that is suggested, and takes a reason where the end is", async () => {
  page.lines = [line("s1", { suggest: "end", suggestedUntil: null })];
  await show();
  press("Keep until…");
  expect(screen.getByLabelText<HTMLInputElement>("Reason").required).toBe(true);
  fireEvent.change(screen.getByLabelText("Keep until"), { target: { value: "in 30 days" } });
  fireEvent.change(screen.getByLabelText("Reason"), { target: { value: "Press" } });
  press("Keep");
  const until = `${inDays(30).slice(0, 10)}T23:59:59Z`;
  await waitFor(() => expect(sentTo("decide")[0]?.decision).toEqual({ decision: "keep", until, reason: "Press" }));
});

test("what could not be decided is said, share by share", async () => {
  page = { ...page, total: 2, open: 2, lines: [line("s1"), line("s2")] };
  answers["/api/decide/decide"] = { decided: 1, not: [{ shareId: "s2", why: "This share has changed." }] };
  await show();
  const together = screen.getByRole("group", { name: "2 are alike, for whoever has the address." });
  fireEvent.click(within(together).getByRole("button", { name: "End" }));
  expect((await within(together).findByRole("alert")).textContent).toContain("Item s2: This share has changed.");
  expect(sentTo("decide")[0].lines).toHaveLength(2);
});

test("a share that has changed is told with both versions; a decided one can be changed until it is carried out", async () => {
  page = {
    ...{ ...page, total: 3, open: 1 },
    lines: [
      line("s1", { before: "Anyone could look at it." }),
      line("s2", { place: "Q", state: "ended", decision: { decision: "end" } }),
      line("s3", { place: "R", state: "gone", isSettled: true }),
    ],
  };
  await show();
  expect(screen.getByText(/Before: Anyone could look at it./)).toBeTruthy();
  expect(screen.getByText(/Ended: it no longer lets anyone in, so there is nothing to decide\./)).toBeTruthy();
  press("Change");
  fireEvent.click(
    within(screen.getByRole("article", { name: /Item s2/ })).getByRole("button", { name: "Keep until…" }),
  );
  expect(screen.getByLabelText("Keep until")).toBeTruthy();
});

test("it is passed on with a reason, and the refusal is shown", async () => {
  answers["/api/decide/pass-on"] = { decided: 0, not: [{ shareId: "s1", why: "Choose a colleague." }] };
  await show();
  press("Pass on…");
  fireEvent.change(screen.getByLabelText("Address of the colleague who should decide"), {
    target: { value: "ivo@home.example" },
  });
  fireEvent.change(screen.getByLabelText("Reason"), { target: { value: "Touring" } });
  press("Pass on");
  expect((await screen.findByRole("alert")).textContent).toBe("Choose a colleague.");
  expect(sentTo("pass-on")).toEqual([{ token: "TOKEN", shares: ["s1"], to: "ivo@home.example", reason: "Touring" }]);
});

test("before finishing it says what that will do; only what was shown is confirmed", async () => {
  page.lines = [line("s1", { state: "ended", decision: { decision: "end" } })];
  page.open = 0;
  answers["/api/decide/finishing"] = {
    ...{ kept: 0, tightened: 0, ended: 1, open: 0, digest: "d".repeat(64) },
    words: ["2 people at quay.example lose access to 31 items.", "1 change."],
  };
  await show();
  expect(screen.getByRole("heading", { level: 1 }).textContent).toBe("You have decided everything");
  press("Finish…");
  expect(await screen.findByText("You end 1.")).toBeTruthy();
  expect(screen.getByText("2 people at quay.example lose access to 31 items.")).toBeTruthy();
  press("Confirm and finish");
  await waitFor(() => expect(sentTo("finish")).toEqual([{ token: "TOKEN", digest: "d".repeat(64) }]));
});

test("what came of each is told afterwards, and a passphrase once", async () => {
  const step = { words: "Set a password", state: "done" as const, answer: null, passphrase: "c1" };
  page.lines = [
    line("s1", {
      state: "tightened",
      isSettled: true,
      decision: { decision: "tighten", way: "password" },
      steps: [step],
    }),
  ];
  page = { ...page, open: 0, finished: T };
  answers["/api/decide/passphrase"] = { passphrase: "umber-cradle" };
  await show();
  expect(screen.getByText(/You finished on 5 Oct 2026/)).toBeTruthy();
  press("Show the passphrase once");
  expect(await screen.findByText("umber-cradle")).toBeTruthy();
});

test("by person one question stands for all that somebody has, with how many different files that is", async () => {
  const theirs = { audienceKey: "person mara@quay.example", audienceTitle: "Mara Quill, quay.example" };
  const lines = [line("s1", theirs), line("s2", theirs), line("s3")];
  page = { ...page, by: "person", total: 3, open: 3, lines, files: { [theirs.audienceKey]: 214, open: 1 } };
  await show();
  expect(screen.getByRole("heading", { name: "Mara Quill, quay.example: 2 shares, 214 files" })).toBeTruthy();
  const question = screen.getByRole("group", { name: "Does Mara Quill, quay.example still need this?" });
  fireEvent.click(within(question).getByRole("button", { name: "End" }));
  await waitFor(() => expect(sentTo("decide")[0]?.lines).toHaveLength(2));
});

test("lines go by place, or by whom they let in; the most pressing first; what is decided stays where it is", () => {
  const lines = [
    line("a", { place: "P", suggest: "keep", audienceKey: "x", audienceTitle: "People at quay.example", files: 3 }),
    line("b", { place: "Q", suggest: "end", audienceKey: "x", audienceTitle: "People at quay.example", files: 4 }),
    line("c", { place: "P", suggest: "keep", state: "kept", audienceKey: "y", audienceTitle: "Out" }),
  ];
  expect(groupsOf(lines, "share").map(({ title, alike }) => [title, alike.map((all) => all.length)])).toEqual([
    ["Q", [1]],
    ["P", [2]],
  ]);
  expect(groupsOf(lines, "person").map(({ title }) => title)).toEqual(["People at quay.example", "Out"]);
});
