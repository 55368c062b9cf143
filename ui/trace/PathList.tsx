import Link from "next/link";
import type { PathTrace, TracedPath } from "@/core/access/trace";
import { useTray } from "../frame/useTray";
import { asOf, useStandpoint } from "../frame/viewer";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";
import { countWords } from "../parts/words";
import { AccessWords } from "./AccessWords";
import { PathPicture } from "./PathPicture";

/** Every way from one person to one item: drawn, and in words with what can be done about it. */
export function PathList({ trace }: { trace: PathTrace }) {
  const { viewer } = useStandpoint();
  const { tray, stage } = useTray();
  const { person, item, paths } = trace;
  const staged = new Set(tray?.changes.filter((one) => one.change.action === "revoke").map((one) => one.subject));
  const open = paths.filter((path) => path.revocable && !staged.has(path.share));
  if (paths.length === 0)
    return (
      <Notice>
        {person.name} doesn’t reach {item.name}, by any way.
      </Notice>
    );
  const revoke = (some: TracedPath[]) =>
    stage.mutate(some.map(({ share }) => ({ action: "revoke" as const, shareId: share })));
  return (
    <>
      <div className="mb-3 flex items-center gap-4">
        <p className="text-[15px]">
          <b className="font-semibold">{person.name}</b> has {countWords(paths.length, "way")} in to{" "}
          <b className="font-semibold">{item.name}</b>.
        </p>
        {viewer.mayChange && open.length > 1 && (
          <Button className="text-oxide" onClick={() => revoke(open)}>
            Stage the revoke of all {open.length}
          </Button>
        )}
      </div>
      <PathPicture paths={paths} staged={staged} />
      <ol className="mt-4 max-w-4xl">
        {paths.map((path) => (
          <PathLine
            key={path.share}
            path={path}
            isStaged={staged.has(path.share)}
            onRevoke={viewer.mayChange ? () => revoke([path]) : null}
          />
        ))}
      </ol>
    </>
  );
}

function PathLine({
  path,
  isStaged,
  onRevoke,
}: {
  path: TracedPath;
  isStaged: boolean;
  onRevoke: (() => void) | null;
}) {
  const { past } = useStandpoint();
  return (
    <li className="flex items-center gap-4 border-t border-line py-2">
      <span className="grow">
        {path.steps.map((step) => step.words).join(" → ")}
        <span className="block text-ink-faint">
          <AccessWords access={path} />
        </span>
      </span>
      {path.revocable ? (
        <Link href={asOf(`/register?share=${path.share}`, past)} className="whitespace-nowrap text-verdigris underline">
          Open the share
        </Link>
      ) : (
        <span className="text-ink-faint">Ownership ends only by handing over.</span>
      )}
      {path.revocable && isStaged && <b className="font-semibold text-verdigris">In the tray</b>}
      {path.revocable && !isStaged && onRevoke && (
        <Button className="text-oxide" onClick={onRevoke}>
          Stage its revoke
        </Button>
      )}
    </li>
  );
}
