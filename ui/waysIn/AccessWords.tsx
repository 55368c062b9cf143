import type { Access } from "@/core/access/paths";
import { NEVER } from "@/core/time/instant";
import { useDates } from "../parts/useDates";

/** What somebody may do, and until when. */
export function AccessWords({ access }: { access: Access }) {
  const dates = useDates();
  const { role, download, until } = access;
  if (until === NEVER)
    return download ? `can ${role} and download, no end date` : `can ${role} but not download, no end date`;
  return download
    ? `can ${role} and download, until ${dates.day(until)}`
    : `can ${role} but not download, until ${dates.day(until)}`;
}
