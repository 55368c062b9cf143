import { useIsFetching } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useDates } from "../parts/useDates";

/** After waiting this long, people are told what for. */
const TELL_AFTER_MS = 500;

/** Says, over everything, that what is shown is past; and, while it is worked out, that it is. */
export function PastBand({ past, onNow }: { past: string; onNow: () => void }) {
  const dates = useDates();
  const isGoingBack = useIsGoingBack();
  return (
    <div role="status" className="flex items-center gap-4 border-b-2 border-copper bg-copper-soft px-3.5 py-1.5">
      <p>
        <b className="font-semibold">The estate as it was on {dates.zoned(past)}.</b>{" "}
        {isGoingBack
          ? "Going back to that day. With hundreds of thousands of shares this takes a few seconds."
          : "Nothing can be changed from here."}
      </p>
      <button type="button" onClick={onNow} className="font-semibold text-verdigris underline">
        Back to now
      </button>
    </div>
  );
}

/** Whether something is being loaded for the first time and has taken a while. */
function useIsGoingBack(): boolean {
  const isWaiting = useIsFetching({ predicate: ({ state }) => state.status === "pending" }) > 0;
  const [isLong, setLong] = useState(false);
  useEffect(() => {
    if (!isWaiting) return;
    const timer = setTimeout(() => setLong(true), TELL_AFTER_MS);
    return () => {
      clearTimeout(timer);
      setLong(false);
    };
  }, [isWaiting]);
  return isWaiting && isLong;
}
