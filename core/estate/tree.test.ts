import { file, head, item, store } from "@/tests/records";
import { buildEstate } from "./estate";
import { LABELS } from "./records";
import { countWithLabel, foldersBetween, liveBetween } from "./tree";

test("items are counted right in any range, however many there are", () => {
  const count = 140_000;
  const items = Array.from({ length: count }, (_, n) => {
    const more = {
      label: LABELS[(n * 7) % LABELS.length],
      state: n % 11 === 3 ? ("binned" as const) : ("live" as const),
    };
    return n % 5 === 0 ? item(`i${n}`, null, more) : file(`i${n}`, null, more);
  });
  const { tree } = buildEstate([head(), store(), ...items]);
  const shown = Array.from({ length: count }, (_, position) => ({
    live: tree.live[position] === 1,
    folder: tree.kindAt(position) === "folder",
    label: tree.label[position],
  }));
  // On both sides of where sixteen bits come to an end, too.
  const ends = [0, 1, 65_535, 65_536, 65_537, 98_765, 131_071, 131_072, 131_073, count];
  for (const from of ends)
    for (const to of ends.filter((end) => end >= from)) {
      const live = shown.slice(from, to).filter((one) => one.live);
      expect(liveBetween(tree, from, to)).toBe(live.length);
      expect(foldersBetween(tree, from, to)).toBe(live.filter((one) => one.folder).length);
      expect(LABELS.map((_, label) => countWithLabel(tree, label, from, to))).toEqual(
        LABELS.map((_, label) => live.filter((one) => one.label === label).length),
      );
    }
});
