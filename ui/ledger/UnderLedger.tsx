import type { ReactNode } from "react";
import { Link } from "../parts/Link";
import { Loading } from "../parts/Loading";
import { Notice } from "../parts/Notice";

interface Props {
  title: string;
  /** What the page is about. */
  about: ReactNode;
  error: Error | null;
  /** Undefined as long as it isn't known what it shows. */
  children: ReactNode;
}

/** A page that stands under the Ledger. */
export function UnderLedger({ title, about, error, children }: Props) {
  const isLoading = children === undefined && !error;
  return (
    <div className="h-full overflow-y-auto bg-raised px-6 py-4" tabIndex={0} aria-busy={isLoading}>
      <nav aria-label="Where this is" className="text-ink-soft">
        <Link href="/ledger" className="underline">
          Ledger
        </Link>{" "}
        / {title}
      </nav>
      <h1 className="text-[20px] font-semibold">{title}</h1>
      <p className="max-w-prose text-ink-soft">{about}</p>
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {isLoading && <Loading />}
      {children}
    </div>
  );
}
