import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import type { Preview } from "@/core/preview/preview";
import type { TrayView } from "@/core/preview/docketView";
import { ConfirmApply } from "./ConfirmApply";
import { TrayPanel } from "./TrayPanel";

const none = { count: 0, names: [] };
const preview: Preview = {
  counts: { revoke: 2, "set-expiry": 1 },
  people: [
    {
      address: "odo@quay.example",
      name: "Odo",
      insider: false,
      organisation: "quay.example",
      loses: { count: 7, names: ["A", "B", "C", "D", "E"] },
      keeps: none,
      gains: none,
      ways: [],
    },
    {
      address: "zoe@post.example",
      name: "Zoe",
      insider: false,
      organisation: "post.example",
      loses: none,
      gains: none,
      keeps: { count: 1, names: ["Plan"] },
      ways: Array.from({ length: 6 }, (_, i) => ({ share: `w${i}`, words: `way ${i}` })),
    },
    {
      address: "ada@home.example",
      name: "Ada",
      insider: true,
      organisation: "home.example",
      loses: { count: 1, names: ["Plan"] },
      keeps: none,
      gains: none,
      ways: [],
    },
  ],
  anyone: { loses: { count: 2, names: ["A", "B"] }, keeps: none, gains: none, ways: [] },
  house: { loses: none, keeps: none, gains: none, ways: [] },
  organisations: [],
  items: [],
  itemsLostOutside: 7,
  addressesStopping: 1,
  passwordsReplaced: 0,
  impossible: [
    {
      subject: "n",
      name: "Seating",
      why: "Stacks can’t keep an end date on named links.",
      instead: "Revoke it, or leave it as it is.",
    },
  ],
  later: [],
  reopened: [],
  tighter: [],
  back: [],
  newAddresses: [],
  careful: { insiders: [], running: [] },
};
const tray: TrayView = {
  docketId: "d",
  changes: [
    { subject: "a", itemName: "Tour", audience: "Whoever has the address", change: { action: "revoke", shareId: "a" } },
    {
      subject: "n",
      itemName: "Seating",
      audience: "Odo",
      change: { action: "set-expiry", shareId: "n", expiresAt: "2026-12-24T23:59:59Z" },
    },
  ],
  preview,
  digest: "a".repeat(64),
  name: null,
  needsReason: false,
  running: null,
};

const asked: { path: string; method: string; body: unknown }[] = [];
beforeEach(() => {
  asked.length = 0;
  globalThis.fetch = (async (path: string, init: RequestInit = {}) => {
    asked.push({ path, method: init.method ?? "GET", body: init.body ? JSON.parse(String(init.body)) : undefined });
    return { ok: true, json: async () => ({}) };
  }) as never;
});

function showPanel(careful = preview.careful) {
  render(
    <QueryClientProvider client={new QueryClient()}>
      <TrayPanel tray={tray} preview={{ ...preview, careful }} onClose={() => {}} />
    </QueryClientProvider>,
  );
}
const part = (title: string) => within(screen.getByRole("heading", { name: title }).parentElement!);

test("who loses what: the crowd first, then each person, insiders marked as such", () => {
  showPanel();
  const losses = part("Who loses what");
  expect(losses.getByText("Whoever has the address")).toBeTruthy();
  expect(losses.getByText("7 items: A, B, C, D, E and 2 more")).toBeTruthy();
  expect(losses.queryByText("Zoe")).toBeNull();
  expect(losses.getByText("in-house")).toBeTruthy();
});

test("who keeps another way in: by which ways, the first few by name", () => {
  showPanel();
  const keeps = part("Who keeps access another way");
  expect(keeps.getByText("Zoe")).toBeTruthy();
  expect(keeps.getByText("by way 0; way 1; way 2; way 3 and 2 more")).toBeTruthy();
  expect(keeps.queryByText("Odo")).toBeNull();
});

test("what can't be done says why and what instead; what can't be undone is said", () => {
  showPanel();
  expect(
    part("What can't be done").getByText(
      "Stacks can’t keep an end date on named links. Revoke it, or leave it as it is.",
    ),
  ).toBeTruthy();
  expect(part("What can't be undone").getByText(/1 address stops working for good/)).toBeTruthy();
});

test("one change can be taken out, or all of them", async () => {
  showPanel();
  expect(screen.getByText("End 24 Dec 2026")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Remove Seating from the tray" }));
  fireEvent.click(screen.getByRole("button", { name: "Remove all" }));
  await waitFor(() =>
    expect(asked.filter((one) => one.method === "DELETE").map((one) => one.body)).toEqual([
      { subjects: ["n"] },
      { subjects: null },
    ]),
  );
});

test("all that takes from insiders, or is for work that goes on, is taken out by one press each", async () => {
  showPanel({ insiders: ["a"], running: ["a", "n"] });
  fireEvent.click(screen.getByRole("button", { name: "Remove 1 that take access from our own people" }));
  fireEvent.click(screen.getByRole("button", { name: "Remove 2 that running projects need" }));
  await waitFor(() =>
    expect(asked.filter((one) => one.method === "DELETE").map((one) => one.body)).toEqual([
      { subjects: ["a"] },
      { subjects: ["a", "n"] },
    ]),
  );
});

test("where nothing calls for care, nothing is offered", () => {
  showPanel();
  expect(screen.queryByRole("button", { name: /insiders lose|goes on/ })).toBeNull();
});

describe("the question before it is applied", () => {
  const shown = { preview, count: 4, digest: "a".repeat(64), name: "Found by reach:open", needsReason: false };
  const ask = () => {
    const apply = jest.fn();
    render(<ConfirmApply shown={shown} apply={apply} />);
    fireEvent.click(screen.getByRole("button", { name: "Apply 4 changes" }));
    return { apply, dialog: within(screen.getByRole("alertdialog")) };
  };

  test("says what happens and what can't be undone, and keeps everything unless told", () => {
    const { apply, dialog } = ask();
    expect(
      dialog.getByText(
        /4 changes. 1 outsider loses access; 2 items no longer open to anyone; 1 insider loses access; 1 keeps another way in. 1 can't be done./,
      ),
    ).toBeTruthy();
    expect(dialog.getByText(/1 address stops working for good/)).toBeTruthy();
    fireEvent.click(dialog.getByRole("button", { name: "Cancel" }));
    expect(apply).not.toHaveBeenCalled();
    expect(screen.queryByRole("alertdialog")).toBeNull();
  });

  test("what opens again has to be confirmed by itself", () => {
    const reopened = [{ shareId: "s", itemName: "Rider", until: "14 Oct 2026" }];
    const apply = jest.fn();
    render(<ConfirmApply shown={{ ...shown, preview: { ...preview, reopened } }} apply={apply} />);
    fireEvent.click(screen.getByRole("button", { name: "Apply 4 changes" }));
    const dialog = within(screen.getByRole("alertdialog"));
    const button = dialog.getByRole("button", { name: "Apply 4 changes" }) as HTMLButtonElement;
    expect(button.disabled).toBe(true);
    fireEvent.click(dialog.getByLabelText("Open 1 ended share again: Rider until 14 Oct 2026"));
    fireEvent.click(button);
    expect(apply).toHaveBeenCalledWith({ digest: shown.digest, reopened: 1, name: "Found by reach:open" });
  });

  test("a docket has a name, suggested after what found it, and a reason, which settings may demand", () => {
    const apply = jest.fn();
    render(<ConfirmApply shown={{ ...shown, needsReason: true }} apply={apply} />);
    fireEvent.click(screen.getByRole("button", { name: "Apply 4 changes" }));
    const dialog = within(screen.getByRole("alertdialog"));
    const button = dialog.getByRole("button", { name: "Apply 4 changes" }) as HTMLButtonElement;
    expect(button.disabled).toBe(true);
    const name = dialog.getByLabelText("Name of the docket") as HTMLInputElement;
    expect(name.value).toBe("Found by reach:open");
    fireEvent.change(name, { target: { value: "Old tour links" } });
    fireEvent.change(dialog.getByLabelText("Reason"), { target: { value: "The tour is over" } });
    fireEvent.click(button);
    expect(apply).toHaveBeenCalledWith({
      digest: shown.digest,
      reopened: 0,
      name: "Old tour links",
      reason: "The tour is over",
    });
  });

  test("a docket that changes behind the question is not applied: the question stays what it was, and says so", () => {
    const apply = jest.fn();
    const { rerender } = render(<ConfirmApply shown={shown} apply={apply} />);
    fireEvent.click(screen.getByRole("button", { name: "Apply 4 changes" }));
    rerender(<ConfirmApply shown={{ ...shown, count: 6, digest: "b".repeat(64) }} apply={apply} />);
    const dialog = within(screen.getByRole("alertdialog"));
    expect(dialog.getByRole("alert").textContent).toContain("it now has 6 changes. Nothing has been applied.");
    const button = dialog.getByRole("button", { name: "Apply 4 changes" }) as HTMLButtonElement;
    expect(button.disabled).toBe(true);
    fireEvent.click(button);
    expect(apply).not.toHaveBeenCalled();
  });

  test("applies when told", () => {
    const { apply, dialog } = ask();
    fireEvent.click(dialog.getByRole("button", { name: "Apply 4 changes" }));
    expect(apply).toHaveBeenCalledTimes(1);
  });
});

test("who gains something is told too, the crowd first", () => {
  const anyone = { ...preview.anyone, loses: none, gains: { count: 1, names: ["Map"] } };
  render(
    <QueryClientProvider client={new QueryClient()}>
      <TrayPanel tray={tray} preview={{ ...preview, anyone }} onClose={() => {}} />
    </QueryClientProvider>,
  );
  expect(part("Who loses or gains what").getByText("gains Map")).toBeTruthy();
});

test("the losses are told by organisation and by item too", () => {
  const organisations = [{ organisation: "quay.example", insider: false, people: 2, items: 9 }];
  const items = [{ id: "f", name: "Plan", people: 2, anyone: true }];
  render(
    <QueryClientProvider client={new QueryClient()}>
      <TrayPanel tray={tray} preview={{ ...preview, organisations, items }} onClose={() => {}} />
    </QueryClientProvider>,
  );
  fireEvent.click(screen.getByRole("button", { name: "By organisation" }));
  expect(part("Who loses what").getByText("2 people lose 9 items")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "By item" }));
  expect(part("Who loses what").getByText("whoever has the address and 2 people")).toBeTruthy();
});
