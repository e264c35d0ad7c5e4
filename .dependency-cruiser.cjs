/** Who may import whom (docs/architecture.md, Floors and rooms). Everything not allowed is forbidden. */
const ROOMS = "(?:steps|rules|rungs|starts|fields)";
const KIND = "(steps|rules|rungs|starts|fields)/([^/]+)";

/** Floors by path. Inside the rooms of kinds the file's name tells the floor. */
const floors = {
  core: "^src/core/",
  shapes: `^src/${ROOMS}/(?:shapes|[^/]+/shape)\\.ts$`,
  schemas: `^src/${ROOMS}/(?:schemas|[^/]+/schema)\\.ts$`,
  effects: `^src/${ROOMS}/(?:effects|executor|[^/]+/effect)\\.ts$`,
  views: `^src/(?:${ROOMS}/(?:views?|editors?|inputs?|[^/]+/(?:View|Editor|Input))|kinds/views)\\.tsx?$`,
  kinds: `^src/(?:${ROOMS}/(?:kinds|[^/]+/[a-z]\\w*)|kinds/index)\\.ts$`,
  contracts: "^src/contracts/",
  formats: "^src/formats/",
  db: "^src/db/",
  outside: "^src/outside/",
  services: "^src/services/",
  worker: "^src/worker/",
  web: "^src/web/",
  ui: "^src/ui/",
  forms: "^src/forms/",
  formula: "^src/formula/",
  workshop: "^src/workshop/",
  app: "^src/(?:app/|proxy\\.ts)",
};
/** The floor of kinds is what is left of their rooms. */
const notKinds = [floors.shapes, floors.schemas, floors.effects, floors.views];

const may = {
  core: ["shapes"],
  shapes: ["core"],
  kinds: ["shapes", "core"],
  schemas: ["shapes", "core", "contracts"],
  contracts: ["shapes", "core", "schemas"],
  formats: ["core", "contracts"],
  db: ["core", "contracts", "formats"],
  outside: ["core", "contracts"],
  effects: ["shapes", "core", "db", "outside"],
  services: ["core", "shapes", "kinds", "contracts", "formats", "db", "outside", "effects"],
  worker: ["services", "contracts", "db"],
  web: ["services", "contracts", "core"],
  ui: [],
  forms: ["core", "ui"],
  formula: ["core", "ui"],
  views: ["shapes", "kinds", "core", "ui", "forms", "formula", "workshop"],
  workshop: ["shapes", "kinds", "core", "contracts", "views", "forms", "formula", "ui"],
  app: ["web", "services", "workshop", "forms", "formula", "ui", "contracts", "core", "kinds"],
};
const names = Object.keys(floors);
const layers = names.map((floor) => {
  const closed = names.filter((f) => f !== floor && f !== "kinds" && !may[floor].includes(f));
  return {
    name: `floor-${floor}`,
    severity: "error",
    from: { path: floors[floor], ...(floor === "kinds" ? { pathNot: notKinds } : {}) },
    to: { path: closed.map((f) => floors[f]).join("|") },
  };
});
const noKinds = names.filter((f) => f !== "kinds" && !may[f].includes("kinds"));
const modules = "^src/(core/[^/]+|contracts|formats|db|services|web|ui|forms|formula|workshop)/";

module.exports = {
  forbidden: [
    ...layers,
    {
      name: "kinds-are-handed-over",
      severity: "error",
      comment: "Core and whatever else may not know kinds gets them as an argument.",
      from: { path: noKinds.map((f) => floors[f]).join("|") },
      to: { path: floors.kinds, pathNot: notKinds },
    },
    {
      name: "no-kind-imports-another",
      severity: "error",
      from: { path: `^src/${KIND}/` },
      to: { path: `^src/${ROOMS}/[^/]+/`, pathNot: "^src/$1/$2/" },
    },
    {
      name: "views-use-the-parts",
      severity: "error",
      comment: "A kind's view is put together from the Workshop's parts and knows none of its sheets.",
      from: { path: floors.views },
      to: { path: floors.workshop, pathNot: "^src/workshop/parts/index\\.ts$" },
    },
    {
      name: "only-db-knows-pg",
      severity: "error",
      from: { path: "^src/", pathNot: "^src/(db|worker)/" },
      to: { path: "node_modules/(pg|graphile-worker)/" },
    },
    {
      name: "core-needs-no-node",
      severity: "error",
      from: { path: `${floors.core}|${floors.shapes}` },
      to: { dependencyTypes: ["core"] },
    },
    {
      name: "core-knows-no-react",
      severity: "error",
      from: { path: `${floors.core}|${floors.shapes}` },
      to: { path: "node_modules/(react|next|zod)/" },
    },
    {
      name: "kinds-know-no-react",
      severity: "error",
      from: { path: floors.kinds, pathNot: notKinds },
      to: { path: "node_modules/(react|next|zod)/", dependencyTypesNot: ["core"] },
    },
    { name: "no-circles", severity: "error", from: { path: "^src/" }, to: { circular: true } },
    {
      name: "one-index-per-module",
      severity: "error",
      comment: "Modules of another folder are reached through their index; types only need not be.",
      from: { path: modules },
      to: {
        path: modules,
        pathNot: ["/index\\.ts$", "^src/$1/"],
        dependencyTypesNot: ["type-only"],
      },
    },
    {
      name: "app-uses-indexes",
      severity: "error",
      from: { path: "^src/app/" },
      to: {
        path: modules,
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
