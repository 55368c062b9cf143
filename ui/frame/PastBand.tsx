import { useDates } from "../parts/useDates";

/** Says, over everything, that what is shown is past. */
export function PastBand({ past, onNow }: { past: string; onNow: () => void }) {
  const dates = useDates();
  return (
    <div role="status" className="flex items-center gap-4 border-b-2 border-copper bg-copper-soft px-3.5 py-1.5">
      <p>
        <b className="font-semibold">The estate as it was on {dates.zoned(past)}.</b> Nothing can be changed from here.
      </p>
      <button type="button" onClick={onNow} className="font-semibold text-verdigris underline">
        Back to now
      </button>
    </div>
  );
}
