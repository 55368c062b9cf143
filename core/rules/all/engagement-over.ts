import { z } from "zod";
import { isAtOrBelow } from "../../estate/tree";
import { DAY } from "../../time/instant";
import { rule } from "../rule";

export const engagementOver = rule({
  title: "Its project has ended",
  sentence: "Shares for a project end [graceDays] days after it.",
  severity: "high",
  parameters: z.strictObject({ graceDays: z.number().nonnegative().default(7) }),
  breaks: ({ outside, outsiders, share }, { estate, t }, { graceDays }) =>
    outside &&
    estate.engagements.some(
      (engagement) =>
        engagement.ends + graceDays * DAY <= t &&
        isAtOrBelow(estate.tree, share.position, engagement.positions) &&
        (share.audience === "open" ||
          outsiders.some((index) => engagement.organisations.has(estate.people[index].organisation))),
    ),
  reason: () => "The project has ended and its days of grace are over.",
  turn: { afterWork: "graceDays" },
});
