import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { ensureBuild } from "./lib/build.mjs";
import { ensureFolder, ensureNodePackages } from "./lib/packages.mjs";
import { report } from "./lib/say.mjs";

// Installs and builds without starting anything: for images that are made once and started often.
const root = join(fileURLToPath(import.meta.url), "../..");
try {
  ensureFolder(join(root, ".local"));
  await ensureNodePackages(root);
  await ensureBuild(root);
} catch (e) {
  report(e);
  process.exit(1);
}
