/** Who may import whom (docs/architecture.md, Floors and rooms). Everything not allowed is forbidden. */
const ROOMS = "(?:steps|rules|rungs|starts|fields)";
const KIND = "(steps|rules|rungs|starts|fields)/([^/]+)";

/** Floors by path. Inside the rooms of kinds the file's name tells the floor. */
const floors = {
  core: "^src/core/",
  shapes: `^src/${ROOMS}/(?:shapes|[^/]+/shape)\\.ts$`,
  schemas: `^src/${ROOMS}/(?:schemas|[^/]+/schema)\\.ts$`,
  effects: `^src/${ROOMS}/(?:effects|executor|[^/]+/effect)\\.ts$`,
  columns: `^src/${ROOMS}/(?:columns?|[^/]+/column)\\.ts$`,
  inputs: `^src/${ROOMS}/(?:inputs?|[^/]+/Input)\\.tsx?$`,
  views: `^src/(?:${ROOMS}/(?:views?|editors?|[^/]+/(?:View|Editor))|kinds/views)\\.tsx?$`,
  kinds: `^src/(?:${ROOMS}/(?:kinds|[^/]+/[a-z]\\w*)|kinds/index)\\.ts$`,
  contracts: "^src/contracts/",
  formats: "^src/formats/",
  db: "^src/db/",
  outside: "^src/outside/",
  services: "^src/services/",
  worker: "^src/worker/",
  web: "^src/web/",
  admin: "^src/admin/",
  ui: "^src/ui/",
  forms: "^src/forms/",
  formula: "^src/formula/",
  workshop: "^src/workshop/",
  app: "^src/(?:app/|proxy\\.ts)",
};
/** The floor of kinds is what is left of their rooms. */
const notKinds = [floors.shapes, floors.schemas, floors.effects, floors.columns, floors.inputs, floors.views];

const may = {
  core: ["shapes"],
  shapes: ["core"],
  kinds: ["shapes", "core"],
  schemas: ["shapes", "core", "contracts"],
  columns: ["shapes", "core"],
  contracts: ["shapes", "core", "schemas", "columns"],
  formats: ["core", "contracts"],
  db: ["core", "contracts", "formats", "columns"],
  outside: ["core", "contracts"],
  effects: ["shapes", "kinds", "core", "db", "outside"],
  services: ["core", "shapes", "kinds", "contracts", "formats", "db", "outside", "effects"],
  worker: ["services", "contracts", "db"],
  web: ["services", "formats", "contracts", "core"],
  admin: ["services", "db"],
  ui: [],
  inputs: ["shapes", "core", "ui", "forms"],
  forms: ["core", "ui", "kinds", "inputs"],
  formula: ["core", "ui"],
  views: ["shapes", "kinds", "core", "ui", "forms", "formula", "workshop"],
  workshop: ["shapes", "kinds", "core", "contracts", "views", "forms", "formula", "ui"],
  app: ["web", "services", "workshop", "forms", "formula", "ui", "contracts", "core", "kinds", "inputs"],
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
      name: "inputs-use-the-parts",
      severity: "error",
      comment: "The form draws the inputs, so they must not lead back to it.",
      from: { path: floors.inputs },
      to: { path: floors.forms, pathNot: "^src/forms/parts\\.ts$" },
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
    exclude: { path: "\\.test\\.tsx?$|/test[A-Z]\\w*\\.ts$" },
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["import", "require", "node", "default", "types"],
    },
  },
};
