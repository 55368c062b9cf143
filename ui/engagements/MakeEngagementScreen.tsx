"use client";

import { useRouter } from "next/navigation";
import { useStandpoint } from "../frame/viewer";
import { Link } from "../parts/Link";
import { Notice } from "../parts/Notice";
import { OfNow } from "../parts/OfNow";
import { EngagementForm } from "./EngagementForm";

export function MakeEngagementScreen() {
  const { past, viewer } = useStandpoint();
  const router = useRouter();
  if (past !== null) return <OfNow />;
  if (!viewer.mayChange) return <Notice>Only administrators can make projects.</Notice>;
  return (
    <div className="h-full overflow-y-auto bg-raised px-6 py-4" tabIndex={0}>
      <nav aria-label="Where this is" className="text-ink-soft">
        <Link href="/people/projects" className="underline">
          Projects
        </Link>{" "}
        / New project
      </nav>
      <EngagementForm onDone={() => router.push("/people/projects")} />
    </div>
  );
}
