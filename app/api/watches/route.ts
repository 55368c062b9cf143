import { z } from "zod";
import { watchSchema } from "@/core/trail/watch";
import { bodyOf, guarded } from "@/server/http/guard";
import { writing } from "@/server/platform/db/open";
import { keepWatch, watchList } from "@/server/trail/watches";

const given = z.object({
  id: z.string().max(60).optional(),
  name: z.string().trim().min(1, "A watch needs a name.").max(120),
  watch: watchSchema,
  isOn: z.boolean(),
});

export const GET = guarded("read", async ({ db }) => ({ watches: await watchList(db) }));

export const POST = guarded("change", async ({ request, db, actor }) => {
  const body = await bodyOf(request, given);
  return { id: await writing(db, (within) => keepWatch(within, actor.email, body)) };
});
