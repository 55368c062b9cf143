import { clsx } from "clsx";

/** Stands where something will be shown once it has come. */
export function Loading({ className }: { className?: string }) {
  return (
    <p aria-busy="true" className={clsx("text-ink-faint", className)}>
      Loading…
    </p>
  );
}
