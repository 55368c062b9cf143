import clsx from "clsx";
import { asOf, useStandpoint } from "../frame/viewer";
import { Link } from "../parts/Link";

const TABS = [
  ["Organisations", "/people"],
  ["Look-alikes", "/people/look-alikes"],
  ["Projects", "/people/projects"],
  ["Leavers", "/people/leavers"],
  ["Insiders", "/people/insiders"],
] as const;

/** The lists of the section. */
export function PeopleTabs({ at }: { at: (typeof TABS)[number][0] }) {
  const { past } = useStandpoint();
  return (
    <nav aria-label="Lists of people" className="on-paper-none flex gap-5 border-b border-line">
      {TABS.map(([name, path]) => (
        <Link
          key={name}
          href={asOf(path, past)}
          aria-current={name === at ? "page" : undefined}
          className={clsx(
            "-mb-px border-b-2 py-1.5",
            name === at ? "border-verdigris font-semibold" : "border-transparent",
          )}
        >
          {name}
        </Link>
      ))}
    </nav>
  );
}
