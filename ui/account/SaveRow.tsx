import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";

interface Props {
  save: { error: Error | null; isPending: boolean; isSuccess: boolean };
}

/** Saves a form of one's own account, and says how that went. */
export function SaveRow({ save }: Props) {
  return (
    <>
      {save.error && <Notice tone="wrong">{save.error.message}</Notice>}
      <Button type="submit" look="act" disabled={save.isPending}>
        Save
      </Button>{" "}
      <span role="status" className="text-ink-soft">
        {save.isSuccess && "Saved."}
      </span>
    </>
  );
}
