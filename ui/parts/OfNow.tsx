import { Notice } from "./Notice";

/** In the place of a screen that only tells of now, while the console shows a past instant. */
export function OfNow() {
  return (
    <div className="h-full bg-raised p-6">
      <Notice>
        This screen only shows the present. Go back to now to see it. The register, Ways in and the trail can show the
        past.
      </Notice>
    </div>
  );
}
