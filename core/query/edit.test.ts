import { isChosen, justThis, noValue, spanOf, spanOfBars, withSpan, withValue } from "./edit";
import { SPAN_DAYS } from "./facets";
import { parseQuery } from "./parse";
import { printQuery } from "./print";

const terms = (text: string) => parseQuery(text).terms;

test("a value is asked for as well, and no longer when it is pressed again", () => {
  const one = withValue(terms("poster reach:open"), "reach", justThis("house"));
  expect(printQuery(one)).toBe("poster reach:open,house");
  expect([isChosen(one, "reach", justThis("house")), isChosen(one, "reach", justThis("named"))]).toEqual([true, false]);
  const none = withValue(withValue(one, "reach", justThis("open")), "reach", justThis("house"));
  expect(printQuery(none)).toBe("poster");
});

test("a value of the data is asked for as a whole, a missing one as none", () => {
  expect(printQuery(withValue([], "maker", justThis('Ada "Nox"')))).toBe('maker:"Ada \\"Nox\\""');
  expect(printQuery(withValue([], "maker", noValue("maker")))).toBe("maker:none");
  expect(printQuery(withValue([], "risk", noValue("risk")))).toBe("risk:none");
});

test("what is asked the other way round is left alone", () => {
  expect(printQuery(withValue(terms("-reach:open"), "reach", justThis("open")))).toBe("-reach:open reach:open");
});

test("a span of ages takes the place of what was asked of the field, and is read back", () => {
  const span = { from: 30, to: 90 };
  const query = withSpan(terms("made:>2d poster"), "made", span);
  expect(printQuery(query)).toBe("poster made:>=30d made:<90d");
  expect(spanOf(query, "made")).toEqual(span);
  expect(printQuery(withSpan(query, "made", null))).toBe("poster");
  expect(spanOf(terms("made:2026-01-01 -made:<3d used:<3d"), "made")).toBeNull();
  expect(printQuery(withSpan([], "ends", { from: 30, to: null }))).toBe("ends:>=30d -ends:never");
});

test("bars stand for the spans between the days that end them", () => {
  expect(spanOfBars(0, 0)).toEqual({ from: null, to: SPAN_DAYS[0] });
  expect(spanOfBars(1, 3)).toEqual({ from: SPAN_DAYS[0], to: SPAN_DAYS[3] });
  expect(spanOfBars(2, SPAN_DAYS.length)).toEqual({ from: SPAN_DAYS[1], to: null });
});
