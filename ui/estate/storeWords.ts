import type { Capabilities } from "@/core/estate/records";
import { listWords } from "../parts/words";

const REACH_WORDS = { open: "open", house: "in-house", named: "named" } as const;

/** What a store can do, and what it can’t, each in a sentence. */
export function capabilityWords(can: Capabilities): { can: string; cannot: string } {
  const told: [is: boolean, words: string, without?: string][] = [
    [can.openLinks, "open links"],
    [can.houseLinks, "in-house links"],
    [can.namedLinks, "named links"],
    [can.intakeLinks, "links for depositing files"],
    [can.linkPassword, "passwords on links"],
    [
      can.linkExpiry.length > 0,
      `end dates on ${listWords(can.linkExpiry.map((one) => REACH_WORDS[one]))} links`,
      "end dates on links",
    ],
    [can.grantExpiry.length > 0, endWords(can), "end dates on grants"],
    [can.downloadBlock.on.length > 0 && can.downloadBlock.roles.length > 0, blockWords(can), "download blocks"],
    [can.changeReach ?? false, "narrowing a link and keeping its address"],
    [can.visitorWords ?? false, "words for those who send files in"],
    [can.maxUses, "limits on uses"],
    [can.startTime, "start dates"],
    [can.lastUse, "telling when a share was last used"],
    [can.perRecipientUse, "telling who of a link’s people used it"],
  ];
  const has = told.filter(([is]) => is).map(([, words]) => words);
  const lacks = told.filter(([is]) => !is).map(([, words, without]) => without ?? words);
  return { can: has.join("; "), cannot: lacks.join("; ") };
}

function endWords({ grantExpiry }: Capabilities): string {
  return grantExpiry.length === 4 ? "end dates on grants" : `end dates on grants to ${listWords(grantExpiry)}`;
}

function blockWords({ downloadBlock: { on, roles } }: Capabilities): string {
  return `download blocks on ${listWords(on.map((kind) => `${kind}s`))} for ${listWords(roles)}`;
}
