import type { PathWays, NamedPath } from "@/core/access/ways";
import { type Change, subjectOf } from "@/core/changes/change";
import { asOf, useStandpoint } from "../frame/viewer";
import { Button } from "../parts/Button";
import { Link } from "../parts/Link";
import { Notice } from "../parts/Notice";
import { countWords } from "../parts/words";
import { AccessWords } from "./AccessWords";
import { cutsAlong } from "./cutWords";
import { PathPicture } from "./PathPicture";
import { useCuts } from "./useCuts";

/** Every way from a person to an item: drawn, and in words with the same controls. */
export function PathList({ ways }: { ways: PathWays }) {
  const { staged, toggle } = useCuts();
  const { person, item, paths } = ways;
  if (paths.length === 0)
    return (
      <Notice>
        {person.name} can’t reach {item.name} in any way.
      </Notice>
    );
  return (
    <>
      <p className="mb-3 text-[15px]">
        <b className="font-semibold">{person.name}</b> has {countWords(paths.length, "way")} in to{" "}
        <b className="font-semibold">{item.name}</b>.
        {toggle && " Press a share to add its revoke to the docket, or a bar to cut the step it stands on."}
      </p>
      <PathPicture paths={paths} staged={staged} onCut={toggle} />
      <ol className="mt-4 max-w-5xl">
        {paths.map((path) => (
          <PathLine key={path.share} path={path} staged={staged} onCut={toggle} />
        ))}
      </ol>
    </>
  );
}

interface LineProps {
  path: NamedPath;
  staged: ReadonlySet<string>;
  onCut: ((change: Change) => void) | null;
}

function PathLine({ path, staged, onCut }: LineProps) {
  const { past } = useStandpoint();
  const isShare = path.steps.some(({ end }) => end !== null);
  return (
    <li className="flex items-center gap-4 border-t border-line py-2">
      <span className="grow">
        {path.steps.map((step) => step.words).join(" → ")}
        <span className="block text-ink-faint">
          <AccessWords access={path} />
          {!isShare && ". Ownership ends only by handing over the item."}
        </span>
      </span>
      {isShare && (
        <Link href={asOf(`/register?share=${path.share}`, past)} className="whitespace-nowrap text-verdigris underline">
          Open the share
        </Link>
      )}
      {onCut && (
        <span className="flex max-w-[420px] flex-wrap justify-end gap-2">
          {cutsAlong(path).map(({ change, words, short }) => {
            const isStaged = staged.has(subjectOf(change));
            return (
              <Button
                key={subjectOf(change)}
                aria-pressed={isStaged}
                title={words}
                className={isStaged ? "text-verdigris" : "text-oxide"}
                onClick={() => onCut(change)}
              >
                {isStaged ? `${short}: staged` : short}
              </Button>
            );
          })}
        </span>
      )}
    </li>
  );
}
