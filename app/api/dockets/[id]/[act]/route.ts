import { z } from "zod";
import { bodyOf, guarded } from "@/server/http/guard";
import { Problem } from "@/server/platform/problem";
import {
  applyDocket,
  dropDocket,
  pauseDocket,
  resumeDocket,
  retryFailed,
  stopDocket,
  takeOver,
} from "@/server/dockets/executor";

const acts = z.enum(["apply", "pause", "resume", "retry", "drop", "take-over", "stop"]);

/** What somebody has said yes to beyond the docket itself. */
const confirmed = z.object({ reopened: z.int().min(0).default(0) });

export const POST = guarded<{ id: string; act: string }>("change", async ({ request, actor, params, app }) => {
  switch (acts.parse(params.act)) {
    case "apply": {
      const applied = await applyDocket(app, params.id, actor.email, await bodyOf(request, confirmed));
      if (applied === "nothing")
        throw new Problem(
          "conflict",
          "There is nothing to apply: the docket is empty, is being applied already, or is somebody else's tray.",
        );
      return { applied };
    }
    case "drop":
      if (!(await dropDocket(app, params.id, actor.email)))
        throw new Problem("conflict", "Only a docket that waits can be sent away.");
      break;
    case "pause":
      await pauseDocket(app, params.id, actor.email);
      break;
    case "resume":
      await resumeDocket(app, params.id, actor.email);
      break;
    case "retry":
      await retryFailed(app, params.id, actor.email);
      break;
    case "stop":
      await stopDocket(app, params.id, actor.email);
      break;
    case "take-over":
      await takeOver(app, params.id, actor.email);
      break;
  }
  return {};
});
