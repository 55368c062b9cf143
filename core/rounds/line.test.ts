import fc from "fast-check";
import { DECISIONS, lineAfter, type LineEvent, type LineState, whyNotPassedOn } from "./line";

const events: fc.Arbitrary<LineEvent | "carry-out"> = fc.oneof(
  fc.constantFrom(...DECISIONS).map((decision) => ({ decision })),
  fc.constantFrom("share-over" as const, "close" as const, "carry-out" as const),
);

test("whatever happens, and in whatever order, a line ends in one state and stays in it", () => {
  fc.assert(
    fc.property(fc.array(events, { maxLength: 12 }), (happened) => {
      let state: LineState = "open";
      let [isCarriedOut, isClosed] = [false, false];
      for (const event of [...happened, "close" as const]) {
        if (event === "carry-out") {
          isCarriedOut ||= ["kept", "tightened", "ended"].includes(state);
          continue;
        }
        const after = lineAfter({ state, isCarriedOut, isClosed }, event);
        if (isCarriedOut || isClosed || state === "gone") expect(after).toBeNull();
        state = after ?? state;
        isClosed ||= event === "close";
      }
      expect(state).not.toBe("open");
      const decided = happened.filter((event) => typeof event === "object");
      if (decided.length === 0) expect(["gone", "lapsed"]).toContain(state);
    }),
  );
});

test("a decision can be changed until it is carried out or the round has closed", () => {
  const now = { state: "kept", isCarriedOut: false, isClosed: false } as const;
  expect(lineAfter(now, { decision: "end" })).toBe("ended");
  expect(lineAfter({ ...now, isCarriedOut: true }, { decision: "end" })).toBeNull();
  expect(lineAfter({ ...now, isClosed: true }, { decision: "end" })).toBeNull();
  expect(lineAfter({ ...now, isCarriedOut: true }, "share-over")).toBeNull();
  expect(lineAfter(now, "close")).toBeNull();
});

test("a line is passed on twice at most, to an active colleague whom the share isn't for, and not in a circle", () => {
  const to = { person: 4, isActiveInsider: true };
  expect(whyNotPassedOn(to, [], new Set())).toBeNull();
  expect(whyNotPassedOn(to, [1, 2], new Set())).toContain("2 times");
  expect(whyNotPassedOn({ ...to, isActiveInsider: false }, [], new Set())).toContain("Choose a colleague");
  expect(whyNotPassedOn(to, [], new Set([4]))).toContain("nobody confirms their own");
  expect(whyNotPassedOn(to, [4], new Set())).toContain("They have already passed it on. Choose another colleague.");
});
