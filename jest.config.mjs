const transform = {
  "^.+\\.tsx?$": [
    "@swc/jest",
    {
      jsc: {
        parser: { syntax: "typescript", tsx: true },
        target: "es2022",
        transform: { react: { runtime: "automatic" } },
      },
      module: { type: "commonjs" },
    },
  ],
};
const base = {
  testEnvironment: "node",
  transform: { ...transform, "node_modules/.+\\.m?js$": ["@swc/jest", { module: { type: "commonjs" } }] },
  transformIgnorePatterns: [
    "node_modules/(?!.*(feelin|lezer-feel|luxon|temporal-polyfill|temporal-utils|min-dash|email-reply-parser|openid-client|oauth4webapi|jose))",
  ],
  moduleNameMapper: { "^@/(.*)$": "<rootDir>/src/$1" },
};
export default {
  // What a test waits for is bounded where it waits; a slow machine must not fail one that only computes.
  testTimeout: 30_000,
  projects: [
    {
      ...base,
      displayName: "unit",
      testMatch: ["<rootDir>/src/**/*.test.ts", "<rootDir>/tests/{kinds,formats,patterns}/**/*.test.ts"],
      testPathIgnorePatterns: ["\\.properties\\.test\\.ts$"],
    },
    { ...base, displayName: "properties", testMatch: ["<rootDir>/src/**/*.properties.test.ts"] },
    {
      ...base,
      displayName: "components",
      testEnvironment: "jsdom",
      testMatch: ["<rootDir>/src/**/*.test.tsx"],
      setupFiles: ["<rootDir>/tests/components/browserGaps.ts"],
      setupFilesAfterEnv: ["<rootDir>/tests/components/patience.ts"],
      // In jsdom packages are looked up as a browser would; those are ES modules.
      transformIgnorePatterns: [
        "node_modules/(?!.*(feelin|lezer-feel|luxon|temporal-polyfill|temporal-utils|min-dash|lucide-react|@lezer|@codemirror|style-mod|w3c-keyname|crelt|@marijn))",
      ],
    },
    { ...base, displayName: "database", testMatch: ["<rootDir>/tests/database/**/*.test.ts"] },
  ],
};
