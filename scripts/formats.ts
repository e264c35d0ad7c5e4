import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { z } from "zod";
import { edit, formData, processDefinition, registerShape, workingCalendar } from "../src/contracts";

/** Writes the JSON Schemas of the document formats, or with --check says whether those kept are current. */
const FORMATS: Record<string, [z.ZodType, string]> = {
  "process@1": [processDefinition, "A process: form, access, route, samples"],
  "register@1": [registerShape, "A register: its columns and how its records are named"],
  "calendar@1": [workingCalendar, "A working calendar"],
  "form-data@1": [formData, "Values of a form, as stored and sent"],
  "edit@1": [edit, "One edit of a draft"],
};
const check = process.argv.includes("--check");
let stale = 0;
for (const [name, [schema, title]] of Object.entries(FORMATS)) {
  const file = new URL(`../docs/formats/${name}.schema.json`, import.meta.url);
  const text = `${JSON.stringify({ title, ...z.toJSONSchema(schema, { unrepresentable: "any" }) }, null, 2)}\n`;
  if (!check) writeFileSync(file, text);
  else if (!existsSync(file) || readFileSync(file, "utf8") !== text) {
    process.stdout.write(`${name} is not current: npm run formats\n`);
    stale++;
  }
}
process.exitCode = stale > 0 ? 1 : 0;
