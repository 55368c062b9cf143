import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import type { AskedPage, AskedShare } from "@/core/rules/answer";
import { inDays, T } from "@/tests/records";
import { AnswerScreen } from "./AnswerScreen";

const share = (more: Partial<AskedShare> = {}): AskedShare => ({
  subject: "s1",
  itemName: "Poster.pdf",
  where: "Stacks / Press",
  sentence: "Anyone who holds this link can look at this file, without a password, no end date.",
  audience: "Whoever has the address",
  lastUsed: null,
  reasons: [{ rule: "open-password", title: "Open link without a password", reason: "What it reaches is internal." }],
  tighten: ["Set a password"],
  canBeNamed: true,
  canEnd: true,
  due: T + 86_400 * 14,
  answered: null,
  steps: [],
  ...more,
});
let page: AskedPage;
let sent: { path: string; body: object }[];

beforeEach(() => {
  sent = [];
  page = { owner: "ida@home.example", shares: [share()], latest: T + 86_400 * 180 };
  globalThis.fetch = (async (path: string, init: RequestInit) => {
    sent.push({ path, body: JSON.parse(init.body as string) });
    if (path === "/api/answers/passphrase") return { ok: true, json: async () => ({ passphrase: "umber-cradle" }) };
    return { ok: true, json: async () => page };
  }) as never;
});
const show = () => {
  location.hash = "#TOKEN";
  return render(<AnswerScreen now={T} />);
};
const decided = () => sent.filter(({ path }) => path === "/api/answers/decide").map(({ body }) => body);

test("each share is told in plain words, with what is wrong and what tightening would do", async () => {
  show();
  expect(await screen.findByRole("heading", { name: "1 of your shares needs a decision" })).toBeTruthy();
  expect(screen.getByText(/can look at this file, without a password, no end date/)).toBeTruthy();
  expect(screen.getByText("Nobody has used it yet.")).toBeTruthy();
  expect(screen.getByText(/Tightening it would: set a password./)).toBeTruthy();
  expect(
    screen.getByText(/Shares without an answer by 19 Oct 2026, in 14 days, will be tightened or ended\./),
  ).toBeTruthy();
  expect(sent[0].body).toEqual({ token: "TOKEN" });
});

test("it is tightened by one press; to end it takes a second one, after what that does", async () => {
  show();
  fireEvent.click(await screen.findByRole("button", { name: "Tighten it" }));
  await waitFor(() => expect(decided()).toHaveLength(1));
  fireEvent.click(await screen.findByRole("button", { name: "End it" }));
  expect(
    screen.getByText(/It stops working at once, for whoever has the address. Nobody has used it yet./),
  ).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Cancel" }));
  fireEvent.click(screen.getByRole("button", { name: "End it" }));
  expect(decided()).toHaveLength(1);
  fireEvent.click(screen.getByRole("button", { name: "End the share" }));
  await waitFor(() =>
    expect(decided()).toEqual([
      { token: "TOKEN", answer: { decision: "tighten", subject: "s1" } },
      { token: "TOKEN", answer: { decision: "end", subject: "s1" } },
    ]),
  );
});

test("keeping it takes a reason and a day", async () => {
  show();
  fireEvent.click(await screen.findByRole("button", { name: "Keep it as it is" }));
  fireEvent.change(screen.getByLabelText("Reason to keep it"), { target: { value: "Press kit" } });
  fireEvent.change(screen.getByLabelText("Until"), { target: { value: inDays(30).slice(0, 10) } });
  fireEvent.click(screen.getByRole("button", { name: "Keep it" }));
  const until = `${inDays(30).slice(0, 10)}T23:59:59Z`;
  await waitFor(() =>
    expect(decided()).toEqual([
      { token: "TOKEN", answer: { decision: "keep", subject: "s1", reason: "Press kit", until } },
    ]),
  );
});

test("it is made for named people, where what was typed are addresses", async () => {
  show();
  fireEvent.click(await screen.findByRole("button", { name: "Limit it to named people" }));
  fireEvent.click(screen.getByRole("button", { name: "Limit it to them" }));
  expect((await screen.findByRole("alert")).textContent).toBe("Name at least one address.");
  fireEvent.change(screen.getByLabelText("Addresses, one per line"), { target: { value: "ada@quay.example" } });
  fireEvent.click(screen.getByRole("button", { name: "Limit it to them" }));
  await waitFor(() =>
    expect(decided()).toEqual([
      { token: "TOKEN", answer: { decision: "named", subject: "s1", addresses: ["ada@quay.example"] } },
    ]),
  );
});

test("what was answered is said, and a passphrase is shown once", async () => {
  const step = { words: "Set a password", state: "done" as const, answer: null, passphrase: "c1" };
  page.shares = [share({ answered: "Tightened: set a password.", steps: [step] })];
  show();
  expect(await screen.findByRole("heading", { name: "Nothing to decide" })).toBeTruthy();
  expect(screen.queryByRole("button", { name: "End it" })).toBeNull();
  fireEvent.click(screen.getByRole("button", { name: "Show the passphrase once" }));
  expect(await screen.findByText("umber-cradle")).toBeTruthy();
});

test("where only its end would help, or an item is asked about, just that is offered", async () => {
  page.shares = [
    share({ tighten: null, canBeNamed: false }),
    share({ subject: "i", tighten: null, canBeNamed: false, canEnd: false }),
  ];
  show();
  expect(await screen.findAllByRole("button", { name: "Keep it as it is" })).toHaveLength(2);
  expect(screen.queryByRole("button", { name: "Tighten it" })).toBeNull();
  expect(screen.getAllByRole("button", { name: "End it" })).toHaveLength(1);
});
