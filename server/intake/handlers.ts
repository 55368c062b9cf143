import type { intakeOperations } from "@/contract/intake";
import type { LinkRecord } from "@/core/estate/records";
import { houseWords } from "@/core/intake/words";
import { shownName } from "@/core/text/shown";
import type { Asking } from "../engine/client";
import type { Handlers } from "../platform/serving";
import { sentInByLink } from "../records/events/sentIn";
import { factNow } from "../records/facts";
import { houseName } from "../records/homeDomains";
import { cameIn } from "./cameIn";

export const intakeHandlers: Handlers<Asking, typeof intakeOperations> = {
  async intakeLinks({ engine, db }, { actor }) {
    const came = await sentInByLink(db);
    const links = await engine.ask("intakeLinks", {});
    return {
      links: await Promise.all(
        links.map(async ({ can, ...link }) => {
          const record = await factNow<LinkRecord>(db, "link", link.id);
          const message = record?.message;
          return {
            ...{ ...link, can, came: came.get(link.id)?.came ?? 0, lastCame: came.get(link.id)?.last ?? null },
            message: typeof message === "string" ? shownName(message) : message,
          };
        }),
      ),
      words: houseWords(await houseName(db), actor.name),
    };
  },
  cameIn: ({ db }, { query }) => cameIn(db, query),
};
