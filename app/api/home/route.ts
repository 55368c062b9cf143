import { bodyOf, guarded } from "@/server/http/guard";
import { homeDomains, homeDomainsSchema, setHomeDomains } from "@/server/records/homeDomains";

export const GET = guarded("read", async ({ db }) => ({ domains: await homeDomains(db) }));

export const PUT = guarded("change", async ({ request, db, actor, app }) => {
  const { domains } = await bodyOf(request, homeDomainsSchema);
  await setHomeDomains(db, actor.email, domains);
  await app.engine.ask("refresh", {});
  return { domains: await homeDomains(db) };
});
