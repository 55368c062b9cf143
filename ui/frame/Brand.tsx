import { Mark } from "./Mark";

/** Where one is, at the head of every page of the console and of one's own. */
export function Brand() {
  return (
    <span className="flex items-center gap-2 text-[14.5px] font-semibold">
      <Mark />
      Tight Latch
    </span>
  );
}
