import { z } from "zod";
import { storeAt } from "../../estate/estate";
import { rule } from "../rule";

export const storeAbroad = rule({
  title: "Stored outside our region",
  sentence: "What is shared outside is stored in [regions].",
  severity: "high",
  isExtra: true,
  /** A store that doesn't say where it is isn't judged; nor is any where no region is named. */
  parameters: z.strictObject({ regions: z.array(z.string().min(1)).default([]) }),
  breaks: ({ outside, share }, { estate }, { regions }) => {
    const { region } = storeAt(estate, share.position);
    return outside && regions.length > 0 && !!region && !regions.includes(region);
  },
  reason: ({ share }, { estate }) => {
    const { name, region } = storeAt(estate, share.position);
    return `${name} keeps it in ${region}.`;
  },
});
