import { existsSync } from "node:fs";
import { join } from "node:path";
import { Trouble } from "./say.mjs";

/**
 * Takes in the file of settings, if there is one: ENV_FILE, else cobble-step.env beside package.json. What is set in
 * the environment already counts before what the file says.
 */
export function loadSettings(root) {
  const named = process.env.ENV_FILE;
  const file = named ?? join(root, "cobble-step.env");
  if (!existsSync(file)) {
    if (named)
      throw new Trouble(
        `ENV_FILE names ${named}, and there is no such file.`,
        "Give the path of your file of settings.",
      );
    return;
  }
  process.loadEnvFile(file);
}
