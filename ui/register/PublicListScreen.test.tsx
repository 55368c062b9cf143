import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render, screen, within } from "@testing-library/react";
import { estateOf, file, inDays, item, link, T } from "@/tests/records";
import { listedRows } from "@/tests/registerModel";
import { StandpointContext } from "../frame/viewer";
import { PublicListScreen } from "./PublicListScreen";

const estate = estateOf(
  item("a", null, { name: "Press kit", label: "public" }),
  file("p", "a", { name: "Poster" }),
  file("b", null, { name: "Budget", label: "confidential" }),
  file("n", null, { name: "Notes" }),
  link("public", "p", { expiresAt: inDays(10) }),
  link("none", "b"),
  link("waived", "n"),
);
const rows = new Map(listedRows(estate, T).map((row) => [row.id, row]));
const shares = [
  {
    row: rows.get("public")!,
    sentence: "Anyone who holds this link can view 2 files.",
    answers: { name: "Ida Nox", as: "owner" },
  },
  { row: rows.get("none")!, sentence: "Anyone who holds this link can edit it.", answers: null },
  {
    row: rows.get("waived")!,
    sentence: "Anyone who holds this link can view it.",
    answers: { name: "Odo Quillby", as: "maker" },
  },
];
const waiver = { shareId: "waived", rule: "open-expiry", givenBy: "a@home.example", givenAt: inDays(-3) };
const answer = {
  shares,
  notes: [{ shareId: "waived", author: "a@home.example", at: inDays(-1), text: "Asked again in spring" }],
  waivers: [
    { ...waiver, id: 1, reason: "On the website", ends: inDays(20), isOver: false },
    { ...waiver, id: 2, reason: "Long ago", ends: inDays(-2), isOver: true },
  ],
};

async function lines() {
  globalThis.fetch = (async () => ({ ok: true, json: async () => answer })) as never;
  render(
    <QueryClientProvider client={new QueryClient()}>
      <StandpointContext
        value={{ viewer: { name: "Ida Nox", address: "imre@home.example", mayChange: false }, now: T, past: null }}
      >
        <PublicListScreen />
      </StandpointContext>
    </QueryClientProvider>,
  );
  await screen.findByText(/3 links that can be used by whoever has the address/);
  return screen.getAllByRole("row").slice(1);
}

test("each share says how it is shared, why it is open, until when, and who answers for it", async () => {
  const [first, none, waived] = await lines();
  expect(first.textContent).toContain("Anyone who holds this link can view 2 files.");
  expect(first.textContent).toContain("Everything it reaches is labelled public.");
  expect(first.textContent).toContain("15 Oct 2026");
  expect(first.textContent).toContain("Ida Noxits owner");
  expect(within(none).getByText("No known reason; it reaches confidential items.")).toBeTruthy();
  expect(within(none).getByText("nobody still here")).toBeTruthy();
  expect(waived.textContent).toContain("On the website waived until 25 Oct 2026");
  expect(waived.textContent).toContain("Asked again in spring");
  expect(waived.textContent).not.toContain("Long ago");
});
