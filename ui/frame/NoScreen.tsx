import { EntrySheet } from "../signIn/EntrySheet";
import { Link } from "../parts/Link";

/** What stands at an address that leads nowhere. */
export function NoScreen() {
  return (
    <EntrySheet title="There is no page at this address">
      <p>Check the address for typing errors. If it came from a link in a mail, the link may be incomplete.</p>
      <p className="mt-3">
        <Link href="/" className="text-verdigris underline">
          Go to the start page
        </Link>
      </p>
    </EntrySheet>
  );
}
