import type { Step, NamedPath } from "@/core/access/ways";
import { layOut, STEP_HEIGHT, STEP_WIDTH } from "./layout";

const step = (kind: Step["kind"], id: string): Step => ({ kind, id, words: id, cut: null, end: null });
const path = (share: string, ...between: Step[]): NamedPath => ({
  share,
  role: "view",
  download: true,
  until: 0,
  steps: [step("person", "p"), ...between, step("share", share), step("item", "i")],
});

test("what several paths share is drawn once, from left to right, and nothing overlaps", () => {
  const picture = layOut([path("s"), path("t", step("group", "g"), step("group", "h")), path("u", step("group", "g"))]);
  expect(picture.steps.map(({ key }) => key).sort()).toEqual([
    "group:g",
    "group:h",
    "item:i",
    "person:p",
    "share:s",
    "share:t",
    "share:u",
  ]);
  const by = new Map(picture.steps.map((one) => [one.key, one]));
  for (const { key } of picture.links) {
    const [from, to] = key.split(">");
    expect(by.get(from)!.x).toBeLessThan(by.get(to)!.x);
  }
  for (const a of picture.steps)
    for (const b of picture.steps)
      if (a.key < b.key) expect(Math.abs(a.x - b.x) >= STEP_WIDTH || Math.abs(a.y - b.y) >= STEP_HEIGHT).toBe(true);
});

test("the same paths make the same picture", () => {
  const paths = [path("s"), path("t", step("group", "g"))];
  expect(layOut(paths)).toEqual(layOut(paths));
});
