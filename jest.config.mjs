// Wherever tests run, clocks show UTC unless a test says otherwise.
process.env.TZ = "UTC";

const shared = {
  // Beside the packages, since what is temporary goes with each run.
  cacheDirectory: "<rootDir>/node_modules/.cache/jest",
  transform: {
    "^.+\\.(mjs|[jt]sx?)$": [
      "@swc/jest",
      { jsc: { target: "es2023", transform: { react: { runtime: "automatic" } } } },
    ],
  },
  // These packages ship ECMAScript modules only, and others have them in files that say so.
  transformIgnorePatterns: [
    "/node_modules/(?!.*\\.mjs$)(?!(?:.*/)?(?:nuqs|@noble|jose|@tanstack/(react-table|table-core|react-store|store)|canonicalize|file-type|strtok3|token-types|@tokenizer|@borewit|uint8array-extras|uuid|p-retry|p-limit|is-network-error|yocto-queue|rrule-temporal)/)",
  ],
  moduleNameMapper: {
    "^@/(.*)$": "<rootDir>/$1",
    // They offer themselves to imports only, and Jest asks as a require would.
    "^canonicalize$": "<rootDir>/node_modules/canonicalize/lib/canonicalize.js",
    "^file-type$": "<rootDir>/node_modules/file-type/index.js",
  },
  testPathIgnorePatterns: ["/node_modules/", "/dist/", "/.next/", "/.latch/"],
  modulePathIgnorePatterns: ["/.next/", "/.latch/"],
};

const config = {
  // Nothing is asserted as a time, and in a bad hour a database alone takes seconds to be made.
  testTimeout: 60_000,
  projects: [
    {
      ...shared,
      displayName: "unit",
      testEnvironment: "node",
      testMatch: ["**/*.test.ts"],
      setupFilesAfterEnv: ["<rootDir>/tests/endStorages.ts"],
      moduleNameMapper: {
        ...shared.moduleNameMapper,
        "^@better-auth/utils/password$": "<rootDir>/tests/quickPasswords.ts",
      },
    },
    {
      ...shared,
      displayName: "ui",
      testEnvironment: "jsdom",
      testMatch: ["**/*.test.tsx"],
      setupFiles: ["<rootDir>/tests/uiBrowser.ts"],
    },
    {
      ...shared,
      displayName: "e2e",
      testEnvironment: "node",
      testMatch: ["<rootDir>/tests/e2e/**/*.e2e.ts"],
      globalSetup: "<rootDir>/tests/e2e/setUp.ts",
      globalTeardown: "<rootDir>/tests/e2e/tearDown.ts",
    },
  ],
};

export default config;
