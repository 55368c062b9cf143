import { isLiveShare, leadsOutside } from "../../access/live";
import { sharesOn } from "../../estate/estate";
import { isIntakeLink, type Judged, type Moment } from "../judged";
import { none, rule } from "../rule";

export const intakeMixed = rule({
  title: "Intake folder holds or shares other things",
  sentence: "Intake links have a folder of their own.",
  severity: "low",
  parameters: none,
  looksAt: isIntakeLink,
  breaks: (one, moment) => isIntakeLink(one) && isMixed(one, moment),
  reason: () => "It should have a folder of its own, with no subfolders and nothing else shared.",
});

function isMixed(intake: Judged, { estate, t }: Moment): boolean {
  const at = intake.share.position;
  if (estate.tree.holdsFolder[at] === 1) return true;
  return sharesOn(estate, at).some(
    (other) =>
      other.role !== "deposit" &&
      isLiveShare(estate, other, t) &&
      (other.audience === "house" || leadsOutside(estate, other.slot)),
  );
}
