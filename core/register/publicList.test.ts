import { parse } from "csv-parse/sync";
import { estateOf, file, inDays, item, link, NOW, T } from "@/tests/records";
import { listedRows } from "@/tests/registerModel";
import { publicListCsv } from "./publicList";
import type { WaiverView } from "./remarks";

test("the public list is a file that any reader of RFC 4180 takes, with the reason for each share", () => {
  const estate = estateOf(
    item("a", null, { name: "Press kit", label: "public" }),
    file("p", "a", { name: "Poster, large" }),
    file("b", null, { name: "=Budget", label: "confidential" }),
    file("n", null, { name: "Notes" }),
    link("l1", "p", { expiresAt: inDays(10) }),
    link("l2", "b"),
    link("l3", "n"),
  );
  const rows = new Map(listedRows(estate, T).map((row) => [row.id, row]));
  const shares = [...rows.values()].map((row) => ({
    row,
    sentence: "Anyone can look.",
    answers: row.id === "l1" ? ({ name: "Ida Nox", as: "owner" } as const) : null,
  }));
  const waiver: WaiverView = {
    id: 1,
    shareId: "l3",
    rule: "open-password",
    reason: 'The "press" wants it',
    givenBy: "ada@home.example",
    givenAt: NOW,
    ends: inDays(20),
    isOver: false,
  };
  const note = { shareId: "l3", author: "ada@home.example", at: NOW, text: "Asked its maker" };
  const csv = publicListCsv(shares, [waiver, { ...waiver, id: 2, reason: "Over", isOver: true }], [note]);
  const read: Record<string, string>[] = parse(csv, { bom: true, columns: true, record_delimiter: "\r\n" });
  expect(Object.fromEntries(read.map((line) => [line.Share, [line.Item, line.Why]]))).toEqual({
    l1: ["Poster, large", "Everything it reaches is labelled public."],
    // No spreadsheet may take it for a formula.
    l2: ["'=Budget", "No known reason; it reaches confidential items."],
    l3: ["Notes", 'The "press" wants it (waived until 25 Oct 2026) Asked its maker'],
  });
  expect(read.find(({ Share }) => Share === "l1")).toMatchObject({ Responsible: "Ida Nox", As: "owner" });
});
