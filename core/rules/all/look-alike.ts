import { isNamedOutside } from "../judged";
import { none, rule } from "../rule";
import { without } from "../wanted";

export const lookAlike = rule({
  title: "A domain that looks like a partner's",
  sentence: "Nothing is shared with a domain easily confused with ours or a partner's.",
  severity: "urgent",
  isExtra: true,
  parameters: none,
  breaks: (one, moment) =>
    isNamedOutside(one) &&
    one.outsiders.some((index) => moment.lookedLike(moment.estate.people[index].organisation) !== undefined),
  reason: ({ outsiders }, moment) => {
    const organisations = new Set([...outsiders].map((index) => moment.estate.people[index].organisation));
    const alike = [...organisations].flatMap((one) => {
      const like = moment.lookedLike(one);
      return like === undefined ? [] : [`${one} is easily confused with ${like}`];
    });
    return `${alike.join("; ")}.`;
  },
  remedies: (one, moment) => without(one, moment, ({ organisation }) => moment.lookedLike(organisation) !== undefined),
});
