// The order of the house. ESLint holds it, and tests/order.test.ts holds that no room is left out.

/** Each part may import only from those named, and from itself. */
export const MAY_IMPORT = {
  core: [],
  contract: ["core"],
  server: ["core", "contract"],
  ui: ["core", "contract"],
  app: ["core", "contract", "server", "ui"],
  // Stand-ins share nothing with the product but the shapes of the records that go over the wire.
  standins: ["core/estate"],
  demo: ["core", "contract", "server", "standins/store"],
  bin: ["core", "contract", "server"],
  // The page that checks a pack: it goes out with packs, and stands on what computes alone.
  verify: ["core"],
};
/** One room a capability: the others ask at its door, `index.ts`. */
export const CAPABILITIES = [
  "people",
  "trail",
  "rules",
  "rounds",
  "directory",
  "outsiders",
  "leavers",
  "engagements",
  "imports",
  "labels",
  "register",
  "sharing",
  "intake",
  "clearing",
  "shortlist",
  "evidence",
  "desk",
];
/** Within a part, each room may import only from rooms before it. */
export const ORDER = {
  core: [
    ...[
      "time",
      "text",
      "estate",
      "access",
      "changes",
      "rules",
      "register",
      "query",
      "preview",
      "advice",
      "rounds",
      "directory",
      "outsiders",
      "leavers",
      "engagements",
      "sharing",
      "imports",
      "trail",
      "intake",
      "clearing",
      "ledger",
      "evidence",
    ],
  ],
  server: [...["platform", "records", "stores", "engine", "messages", "dockets"], ...CAPABILITIES, "http"],
};
