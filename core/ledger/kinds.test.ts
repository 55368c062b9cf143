import { KINDS } from "./kinds";
import { spelledToday } from "./spelling";

test.each(["rule.set", "waivers.given", "standing-order.dropped", "acting.goes-on", "passphrase.shown", "watch.made"])(
  "%s, as it was spelled once, is a kind that there still is",
  (old) => expect(KINDS).toHaveProperty([spelledToday(old)]),
);

test("each kind is words with hyphens, and as it is spelled today", () => {
  for (const kind of Object.keys(KINDS))
    expect([kind, spelledToday(kind)]).toEqual([expect.stringMatching(/^[a-z]+(-[a-z]+)+$/), kind]);
});
