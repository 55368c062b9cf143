import { guarded } from "@/server/http/guard";
import { connections } from "@/server/stores/connections";

export const GET = guarded("read", async ({ db }) => ({
  stores: (await connections(db)).map(({ id, name }) => ({ id, name })),
}));
