import type { Access } from "@/core/access/paths";
import { NEVER } from "@/core/time/instant";
import { useDates } from "../parts/useDates";

/** What somebody may do, and until when. */
export function AccessWords({ access }: { access: Access }) {
  const dates = useDates();
  const download = access.download ? " and download" : " but not download";
  const until = access.until === NEVER ? "no end date" : `until ${dates.day(access.until)}`;
  return `can ${access.role}${download}, ${until}`;
}
