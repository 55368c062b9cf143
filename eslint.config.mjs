import next from "eslint-config-next";
import tseslint from "typescript-eslint";
import { CAPABILITIES, MAY_IMPORT, ORDER } from "./rooms.mjs";

const [{ plugins, ...react }] = next;

/** Where a file may not import from, each place with why. Each file is held to those of its own room alone. */
const zonesOf = (part, places) =>
  places.map(({ from, except = [], message }) => ({ target: `./${part}`, from, except, message }));
const restricted = (part, places) => ["error", { basePath: import.meta.dirname, zones: zonesOf(part, places) }];

function otherParts(part) {
  const allowed = MAY_IMPORT[part];
  return Object.keys(MAY_IMPORT)
    .filter((other) => other !== part && !allowed.includes(other))
    .map((other) => ({
      from: `./${other}`,
      except: allowed.filter((path) => path.startsWith(other + "/")).map((path) => "./" + path.slice(other.length + 1)),
      message: `${part}/ may not import from ${other}/`,
    }));
}

function otherRooms(part, room) {
  const later = ORDER[part].slice(ORDER[part].indexOf(room) + 1).map((other) => ({
    from: `./${part}/${other}`,
    message: `${part}/${room} comes before ${part}/${other} and may not import from it`,
  }));
  if (part !== "server") return later;
  const doors = CAPABILITIES.includes(room) ? CAPABILITIES.filter((other) => other !== room) : [];
  const atTheDoor = doors.map((other) => ({
    from: `./server/${other}`,
    except: ["./index.ts"],
    message: `ask at the door of server/${other}: its index.ts`,
  }));
  return [...later, ...atTheDoor, { from: "./server/*.ts", message: "what puts the rooms together is above them" }];
}

const parts = Object.keys(MAY_IMPORT).map((part) => ({
  files: [`${part}/**`],
  rules: { "import/no-restricted-paths": restricted(part, otherParts(part)) },
}));
const rooms = Object.entries(ORDER).flatMap(([part, all]) =>
  all.map((room) => ({
    files: [`${part}/${room}/**/*.ts`],
    ignores: ["**/*.test.ts"],
    rules: { "import/no-restricted-paths": restricted(part, [...otherParts(part), ...otherRooms(part, room)]) },
  })),
);

export default tseslint.config(
  { ignores: ["node_modules/", "dist/", ".next/", ".latch/", "next-env.d.ts"] },
  { plugins },
  { ...react, files: ["app/**", "ui/**"] },
  ...next.slice(1),
  ...tseslint.configs.recommended,
  {
    rules: {
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_", varsIgnorePattern: "^_" }],
      "@typescript-eslint/no-non-null-assertion": "off",
    },
    settings: { "import/resolver": { typescript: true } },
  },
  ...parts,
  ...rooms,
  {
    files: ["app/**", "ui/**"],
    ignores: ["ui/parts/Link.tsx"],
    rules: {
      "no-restricted-imports": ["error", { name: "next/link", message: "ui/parts/Link fetches nothing beforehand" }],
    },
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
