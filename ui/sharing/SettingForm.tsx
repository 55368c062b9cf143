import { useMutation, useQueryClient } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { useStandpoint } from "../frame/viewer";
import { Button } from "../parts/Button";
import { Notice } from "../parts/Notice";

interface Props {
  title: string;
  save: () => Promise<unknown>;
  /** What the button says. */
  words: string;
  /** There is nothing to save, or it can't be. */
  isOff?: boolean;
  children: ReactNode;
}

/** A setting of sharing: whoever may change nothing sees it, and can't. */
export function SettingForm({ title, save, words, isOff, children }: Props) {
  const { viewer } = useStandpoint();
  const client = useQueryClient();
  const { error, isPending, isSuccess, mutate } = useMutation({
    mutationFn: save,
    onSuccess: () => client.invalidateQueries(),
  });
  return (
    <form
      className="mt-6"
      onSubmit={(event) => {
        event.preventDefault();
        mutate();
      }}
    >
      <h2 className="text-[17px] font-semibold">{title}</h2>
      <fieldset disabled={!viewer.mayChange}>
        {children}
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
      </fieldset>
    </form>
  );
}
