import next from "eslint-config-next";
import tseslint from "typescript-eslint";

/** Each room may import only from the rooms above it, and from itself. */
const ROOMS = ["core", "server", "ui", "app", "demo", "bin"];
const MAY_IMPORT = {
  core: [],
  server: ["core"],
  ui: ["core"],
  app: ["core", "server", "ui"],
  // Stand-ins share nothing with the product but the shapes of the records that go over the wire.
  standins: ["core/estate"],
  demo: ["core", "server", "standins/store"],
  bin: ["core", "server"],
};

const zones = Object.entries(MAY_IMPORT).flatMap(([room, allowed]) =>
  [...ROOMS, "standins"]
    .filter((other) => other !== room && !allowed.includes(other))
    .map((other) => ({
      target: `./${room}`,
      from: `./${other}`,
      except: allowed.filter((path) => path.startsWith(other + "/")).map((path) => "./" + path.slice(other.length + 1)),
      message: `${room}/ may not import from ${other}/`,
    })),
);

export default tseslint.config(
  { ignores: ["node_modules/", "dist/", ".next/", ".latch/", "next-env.d.ts"] },
  ...next,
  ...tseslint.configs.recommended,
  {
    rules: {
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_", varsIgnorePattern: "^_" }],
      "@typescript-eslint/no-non-null-assertion": "off",
      "import/no-restricted-paths": ["error", { basePath: import.meta.dirname, zones }],
    },
    settings: { "import/resolver": { typescript: true } },
  },
  {
    files: ["core/**/*.ts"],
    ignores: ["**/*.test.ts"],
    rules: {
      "no-restricted-imports": [
        "error",
        {
          patterns: [
            {
              group: [
                "node:*",
                "fs",
                "path",
                "crypto",
                "react",
                "react-*",
                "next",
                "next/*",
                "kysely",
                "better-sqlite3",
              ],
              message: "core/ computes over plain data only",
            },
          ],
        },
      ],
      "no-restricted-properties": [
        "error",
        { object: "Date", property: "now", message: "time is an argument" },
        { object: "Math", property: "random", message: "core/ knows no chance" },
        { object: "crypto", property: "randomUUID", message: "core/ knows no chance" },
      ],
      "no-restricted-syntax": [
        "error",
        { selector: "NewExpression[callee.name='Date'][arguments.length=0]", message: "time is an argument" },
      ],
    },
  },
);
