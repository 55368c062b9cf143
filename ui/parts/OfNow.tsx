import { Notice } from "./Notice";

/** In the place of a screen that only tells of now, while the console shows a past instant. */
export function OfNow({ what }: { what: string }) {
  return (
    <div className="h-full bg-raised p-6">
      <Notice>
        {what} of now only. Go back to now to see it. The register, Ways in and the trail can show the past.
      </Notice>
    </div>
  );
}
