import { Mark } from "./Mark";

/** The name at the head of every page. */
export function Brand() {
  return (
    <span className="flex items-center gap-2 text-[14.5px] font-semibold">
      <Mark />
      Tight Latch
    </span>
  );
}
