import next from "eslint-config-next";
import tseslint from "typescript-eslint";
import { CAPABILITIES, MAY_IMPORT, ORDER } from "./rooms.mjs";

const betweenParts = Object.entries(MAY_IMPORT).flatMap(([part, allowed]) =>
  Object.keys(MAY_IMPORT)
    .filter((other) => other !== part && !allowed.includes(other))
    .map((other) => ({
      target: `./${part}`,
      from: `./${other}`,
      except: allowed.filter((path) => path.startsWith(other + "/")).map((path) => "./" + path.slice(other.length + 1)),
      message: `${part}/ may not import from ${other}/`,
    })),
);
const betweenRooms = Object.entries(ORDER).flatMap(([part, rooms]) =>
  rooms.flatMap((room, place) =>
    rooms.slice(place + 1).map((later) => ({
      target: `./${part}/${room}/**/!(*.test).ts`,
      from: `./${part}/${later}`,
      message: `${part}/${room} comes before ${part}/${later} and may not import from it`,
    })),
  ),
);
const atTheDoor = CAPABILITIES.flatMap((room) =>
  CAPABILITIES.filter((other) => other !== room).map((other) => ({
    target: `./server/${room}/**/!(*.test).ts`,
    from: `./server/${other}`,
    except: ["./index.ts"],
    message: `ask at the door of server/${other}: its index.ts`,
  })),
);
const putTogether = ORDER.server.map((room) => ({
  target: `./server/${room}/**/!(*.test).ts`,
  from: "./server/*.ts",
  message: "what puts the rooms together is above them",
}));
const zones = [...betweenParts, ...betweenRooms, ...atTheDoor, ...putTogether];

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
