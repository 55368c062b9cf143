import clsx from "clsx";
import { Link } from "../parts/Link";

const TABS = [
  ["/register", "Shares"],
  ["/register/intake", "Intake links"],
  ["/register/intake/came-in", "What came in"],
  ["/register/over", "Links that are over"],
] as const;

/** The tabs of the register that aren’t its table. */
export function IntakeTabs({ at }: { at: (typeof TABS)[number][0] }) {
  return (
    <nav aria-label="Register" className="mb-3 flex gap-5 border-b border-line">
      {TABS.map(([path, words]) => (
        <Link
          key={path}
          href={path}
          aria-current={path === at ? "page" : undefined}
          className={clsx(
            "-mb-px border-b-2 pb-1.5",
            path === at ? "border-verdigris font-semibold" : "border-transparent",
          )}
        >
          {words}
        </Link>
      ))}
    </nav>
  );
}
