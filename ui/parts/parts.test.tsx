import { render, screen } from "@testing-library/react";
import type { Latches } from "@/core/rules/latches";
import { NEVER, seconds } from "@/core/time/instant";
import { LatchMark, LatchMarks } from "./LatchMarks";
import { RiskMark } from "./RiskMark";
import { UTC_DATES } from "@/core/time/style";
import { datesIn } from "./dates";
import { plainWords } from "./words";

const latches: Latches = { expiry: "shut", password: "demanded", download: "impossible", named: "waived" };

test("latch marks say their states in words, in their order", () => {
  render(<LatchMarks latches={latches} />);
  expect(screen.getByRole("img").getAttribute("aria-label")).toBe(
    "Expiry: shut; Password: open, but a rule requires it shut; No download: not possible here; Named: open, waived",
  );
});

test("each state has a shape of its own, so that colour is never needed", () => {
  const shapes = (["shut", "open", "demanded", "impossible", "waived"] as const).map((state) => {
    const { container } = render(<LatchMark state={state} />);
    return container.innerHTML.replace(/(fill|stroke)="var\([^"]*\)"/g, "");
  });
  expect(new Set(shapes).size).toBe(5);
});

test("risk is a word with as many strokes as it has steps", () => {
  const { container } = render(<RiskMark risk="moderate" />);
  expect(container.textContent).toBe("Moderate");
  expect(container.querySelectorAll("i")).toHaveLength(5);
  expect(container.querySelectorAll("i.bg-line")).toHaveLength(2);
});

test("what has no risk says so", () => {
  render(<RiskMark risk={null} />);
  expect(screen.getByText("none")).toBeTruthy();
});

test("days, moments and ids in words", () => {
  const dates = datesIn(UTC_DATES);
  const now = seconds("2026-11-23T09:14:00Z");
  expect(
    ["2026-11-23T23:59:59Z", "2026-12-02T00:00:00Z", "2026-11-22T23:00:00Z", "2026-03-04T09:00:00Z"].map((at) =>
      dates.distance(seconds(at), now),
    ),
  ).toEqual(["today", "in 9 days", "1 day ago", "9 months ago"]);
  expect([dates.end(NEVER), dates.end(now), dates.zoned("2026-11-23T09:14:00Z"), plainWords("very-high")]).toEqual([
    "no end",
    "23 Nov 2026",
    "23 Nov 2026, 09:14 UTC",
    "Very high",
  ]);
});
