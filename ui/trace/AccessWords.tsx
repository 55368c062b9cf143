import type { Access } from "@/core/access/paths";
import { endWords } from "../parts/words";

/** What somebody may do, and until when. */
export function AccessWords({ access }: { access: Access }) {
  return (
    <>
      may {access.role}, {access.download ? "and download" : "not download"},{" "}
      {access.until === 0 ? "" : endWords(access.until) === "no end" ? "for ever" : `until ${endWords(access.until)}`}
    </>
  );
}
