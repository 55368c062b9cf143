import { useStandpoint } from "../frame/viewer";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";

interface Props {
  save: { error: Error | null; isPending: boolean; isSuccess: boolean };
  words: string;
  isOff?: boolean;
}

/** The foot of a form: what went wrong, the button that saves it, and that it is saved. */
export function SaveLine({ save: { error, isPending, isSuccess }, words, isOff }: Props) {
  const { viewer } = useStandpoint();
  return (
    <div className="mt-3">
      {error && <Notice tone="wrong">{error.message}</Notice>}
      {viewer.mayChange && (
        <Button type="submit" look="act" disabled={isPending || isOff}>
          {words}
        </Button>
      )}
      <span role="status" className="ml-3 text-ink-soft">
        {isSuccess && "Saved."}
      </span>
    </div>
  );
}
