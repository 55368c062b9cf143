"use client";

import { usePathname } from "next/navigation";
import { asOf, useStandpoint } from "../frame/viewer";
import { Link } from "../parts/Link";
import { ESTATE_PARTS } from "./parts";

/** Leads from each part of the Estate to the others. */
export function EstateNav() {
  const path = usePathname();
  const { past } = useStandpoint();
  const isHere = (part: string) => path === part || (part !== "/estate" && path.startsWith(`${part}/`));
  return (
    <nav aria-label="Parts of the Estate" className="border-b border-line bg-surface px-6 py-1.5">
      <ul className="flex flex-wrap gap-x-4 gap-y-0.5">
        {ESTATE_PARTS.map(([name, part]) => (
          <li key={part}>
            <Link
              href={asOf(part, past)}
              aria-current={isHere(part) ? "page" : undefined}
              className="text-ink-soft underline-offset-4 hover:underline aria-[current]:font-semibold aria-[current]:text-ink aria-[current]:underline"
            >
              {name}
            </Link>
          </li>
        ))}
      </ul>
    </nav>
  );
}
