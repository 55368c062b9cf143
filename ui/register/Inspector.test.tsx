import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen } from "@testing-library/react";
import { shareDetail } from "@/core/register/detail";
import { registerRows } from "@/core/register/row";
import { estateOf, file, grant, item, link, named, store, T } from "@/tests/records";
import { Inspector } from "./Inspector";

/** The inspector over a real answer of the core, for one share of a small estate. */
const shares = [
  link("open", "f", { address: "https://dock.example/l/7Qk1lI0O" }),
  named("named", "f", ["out@quay.example"]),
  grant("g", "a", "out"),
];
const estate = estateOf(
  store("st", { linkExpiry: ["open"], perRecipientUse: false }),
  item("a", null, { name: "Tour", label: "restricted" }),
  file("f", "a", { name: "Scans" }),
  shares,
);

function show(id: string, more: Partial<Parameters<typeof Inspector>[0]> = {}) {
  const row = registerRows(estate, T).find((one) => one.id === id)!;
  const detail = shareDetail(
    estate,
    estate.share(id)!,
    shares.find((one) => one.id === id)!,
    row,
    T,
  );
  globalThis.fetch = (async () => ({ ok: true, json: async () => detail })) as never;
  const acts = { onClose: jest.fn(), onRevoke: jest.fn(), onEnd: jest.fn(), onOpen: jest.fn() };
  render(
    <QueryClientProvider client={new QueryClient()}>
      <Inspector id={id} past={null} mayChange isStaged={false} {...acts} {...more} />
    </QueryClientProvider>,
  );
  return acts;
}

test("tells what the share does, what is wrong with it, and what its end would mean", async () => {
  show("open");
  expect(
    await screen.findByText(
      /Anyone who holds this link can look at this file and download it, without a password, for ever./,
    ),
  ).toBeTruthy();
  expect(screen.getByText("What it reaches is restricted; no open link may lead there.")).toBeTruthy();
  expect(screen.getByText("1 change. 1 item no longer open to anyone.")).toBeTruthy();
  expect(screen.getByText("https://dock.example/l/7Qk1lI0O")).toBeTruthy();
  expect(screen.getByRole("link", { name: /Trace everybody/ }).getAttribute("href")).toBe("/trace?item=f");
});

test("its expiry latch and its revoke lead to the tray, other ways in to their share", async () => {
  const acts = show("open");
  fireEvent.click(await screen.findByTitle("Set an end date"));
  fireEvent.click(screen.getByRole("button", { name: "Stage its revoke" }));
  fireEvent.click(screen.getByRole("button", { name: "right to view: Person out, quay.example" }));
  expect([acts.onEnd.mock.calls.length, acts.onRevoke.mock.calls.length, acts.onOpen.mock.calls[0]]).toEqual([
    1,
    1,
    ["g"],
  ]);
});

test("a latch that the store can't shut is no control, and says why", async () => {
  show("named");
  expect(await screen.findByTitle("Store st keeps no end date on named links.")).toBeTruthy();
  expect(screen.queryByTitle("Set an end date")).toBeNull();
  expect(screen.getByText("This store does not tell who opened it.")).toBeTruthy();
});

test("tells by name who loses access if it goes, and who keeps it by what", async () => {
  show("g");
  expect(await screen.findByText("Who loses access")).toBeTruthy();
  expect(screen.getAllByText("Tour")).toHaveLength(2);
  expect(screen.getByText("by named link on Scans; open link on Scans")).toBeTruthy();
});

test("whoever may only look has nothing to press that changes anything", async () => {
  show("open", { mayChange: false });
  await screen.findByText("Scans");
  expect(screen.queryByRole("button", { name: "Stage its revoke" })).toBeNull();
  expect(screen.queryByTitle("Set an end date")).toBeNull();
});

test("a share that is in the tray says so", async () => {
  show("open", { isStaged: true });
  expect(await screen.findByText("A change to this share is in the tray.")).toBeTruthy();
});
