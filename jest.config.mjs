const transform = {
  "^.+\\.tsx?$": ["@swc/jest", { jsc: { parser: { syntax: "typescript", tsx: true }, target: "es2022", transform: { react: { runtime: "automatic" } } }, module: { type: "commonjs" } }],
};
const base = {
  testEnvironment: "node",
  transform: { ...transform, "node_modules/.+\\.m?js$": ["@swc/jest", { module: { type: "commonjs" } }] },
  transformIgnorePatterns: ["node_modules/(?!.*(feelin|lezer-feel|luxon|temporal-polyfill|temporal-utils|min-dash))"],
  moduleNameMapper: { "^@/(.*)$": "<rootDir>/src/$1" },
};
export default {
  projects: [
    { ...base, displayName: "unit", testMatch: ["<rootDir>/src/**/*.test.ts"] },
    { ...base, displayName: "database", testMatch: ["<rootDir>/tests/database/**/*.test.ts"] },
  ],
};
