import { none, rule } from "../rule";

export const sharerLeft = rule({
  title: "Its maker or owner has left",
  sentence: "Outside shares have a maker and an owner who are still here.",
  severity: "high",
  parameters: none,
  breaks: ({ outside, share }, { estate }) => {
    const hasLeft = (index: number) => index >= 0 && estate.people[index].status === "left";
    return outside && (hasLeft(share.maker) || hasLeft(estate.ownerAt(share.position)));
  },
  reason: ({ share }, { estate }) => {
    const maker = estate.people[share.maker];
    if (maker?.status === "left") return `${maker.name}, who made it, has left.`;
    const owner = estate.people[estate.ownerAt(share.position)];
    return `${owner?.name ?? "The owner"}, who owns the item, has left.`;
  },
});
