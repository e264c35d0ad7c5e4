/** Who may import whom (docs/architecture.md, Layers). Everything not allowed is forbidden. */
const may = {
  core: ["core"],
  contracts: ["contracts", "core"],
  db: ["db", "core", "contracts"],
  outside: ["outside", "core", "contracts"],
  services: ["services", "core", "contracts", "db", "outside"],
  worker: ["worker", "services", "contracts", "db"],
  web: ["web", "services", "contracts", "core"],
  ui: ["ui"],
  forms: ["forms", "core", "ui"],
  formula: ["formula", "core", "ui"],
  workshop: ["workshop", "forms", "formula", "core", "contracts", "ui"],
  app: ["app", "web", "services", "workshop", "forms", "formula", "ui", "contracts", "core"],
};
const layers = Object.keys(may);
const forbidden = layers.map((layer) => ({
  name: `layer-${layer}`,
  severity: "error",
  from: { path: `^src/${layer}/` },
  to: { path: `^src/(${layers.filter((l) => !may[layer].includes(l)).join("|")})/` },
}));
module.exports = {
  forbidden: [
    ...forbidden,
    {
      name: "only-db-knows-pg",
      severity: "error",
      from: { path: "^src/", pathNot: "^src/(db|worker)/" },
      to: { path: "node_modules/(pg|graphile-worker)/" },
    },
    {
      name: "core-needs-no-node",
      severity: "error",
      from: { path: "^src/core/", pathNot: "\\.test\\.ts$" },
      to: { dependencyTypes: ["core"] },
    },
    {
      name: "core-knows-no-react",
      severity: "error",
      from: { path: "^src/core/" },
      to: { path: "node_modules/(react|next|zod)/" },
    },
    {
      name: "no-circles",
      severity: "error",
      from: { path: "^src/" },
      to: { circular: true, viaOnly: { dependencyTypesNot: ["type-only"] } },
    },
    {
      name: "one-index-per-module",
      severity: "error",
      comment: "Modules of another folder are reached through their index.",
      from: { path: "^src/(core/[^/]+|contracts|db|services|web|ui|forms|formula|workshop)/" },
      to: {
        path: "^src/(core/[^/]+|contracts|db|services|web|ui|forms|formula|workshop)/",
        pathNot: ["/index\\.ts$", "^src/$1/"],
      },
    },
    {
      name: "app-uses-indexes",
      severity: "error",
      from: { path: "^src/app/" },
      to: {
        path: "^src/(core/[^/]+|contracts|services|web|ui|forms|formula|workshop)/",
        pathNot: "/index\\.ts$",
      },
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.json" },
    exclude: { path: "\\.test\\.tsx?$" },
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["import", "require", "node", "default", "types"],
    },
  },
};
