import type { WitnessKind } from "@/core/evidence/witness";

/** What each kind of witness is called, and where it is when it has no address of its own. */
export const WITNESS_WORDS: Record<WitnessKind, { title: string; where: string; hint: string }> = {
  folder: { title: "Folder", where: "", hint: "" },
  mail: {
    title: "Mail address",
    where: "",
    hint: "At most one mail a day, to somebody who doesn’t run Tight Latch, such as an auditor.",
  },
  webhook: {
    title: "Webhook",
    where: "the webhook set under Estate",
    hint: "Each checkpoint goes to the webhook that is set under Estate, in Messages.",
  },
  log: {
    title: "Log",
    where: "the log set under Estate",
    hint: "Each checkpoint is a line in the log that is set under Estate, in Messages.",
  },
  stamp: {
    title: "Time-stamping authority",
    where: "",
    hint: "Its time stamp (RFC 3161) proves when a checkpoint existed to anyone who trusts the authority.",
  },
};
