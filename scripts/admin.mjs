import { spawnSync } from "node:child_process";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { buildPrograms } from "./lib/build.mjs";
import { ensureFolder, ensureNodePackages } from "./lib/packages.mjs";
import { report } from "./lib/say.mjs";
import { loadSettings } from "./lib/settings.mjs";

// npm run migrate, first-person, replay: the commands of src/admin, with the settings of npm start.
const root = join(fileURLToPath(import.meta.url), "../..");
try {
  loadSettings(root);
  ensureFolder(join(root, ".local"));
  await ensureNodePackages(root);
  await buildPrograms(root);
  const done = spawnSync(process.execPath, ["dist/src/admin/main.cjs", ...process.argv.slice(2)], {
    cwd: root,
    stdio: "inherit",
    env: { ...process.env, NODE_ENV: "production" },
  });
  process.exit(done.status ?? 1);
} catch (e) {
  report(e);
  process.exit(1);
}
