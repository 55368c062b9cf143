import { z } from "zod";

/** Runs one stand-in: `stacks`, `alcoves`, `dock`, `mail` or `identity`. Everything else comes from the environment. */
const name = z.enum(["stacks", "alcoves", "dock", "mail", "identity"]).parse(process.argv[2]);
const port = z.coerce.number().int();
const environment = z
  .object({
    STANDIN_PORT: port,
    STANDIN_DATA: z.string().default(""),
    STANDIN_SEED: z.string().default(""),
    STANDIN_KEY: z.string().default(""),
    /** Of the identity provider: its client, and whom it knows, as JSON. */
    STANDIN_IDENTITY: z.string().default(""),
    LATCH_SMTP_PORT: port.default(4314),
  })
  .parse(process.env);

// Each loads only what it needs itself: they are started often.
if (name === "mail") {
  const { runMailCatcher } = await import("./mail/main");
  runMailCatcher({ smtpPort: environment.LATCH_SMTP_PORT, port: environment.STANDIN_PORT });
} else if (name === "identity") {
  const { runIdentityProvider } = await import("./identity/main");
  runIdentityProvider({ port: environment.STANDIN_PORT, ...JSON.parse(environment.STANDIN_IDENTITY) });
} else {
  const { runStore } = await import("./store/main");
  runStore(name, {
    port: environment.STANDIN_PORT,
    data: environment.STANDIN_DATA,
    seed: environment.STANDIN_SEED,
    key: z.string().min(20).parse(environment.STANDIN_KEY),
  });
}
