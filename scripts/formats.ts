import { existsSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { z } from "zod";
import { edit, formData, processDefinition, registerShape, workingCalendar } from "../src/contracts";

/** Writes the JSON Schemas of the document formats, or with --check says whether those kept are current. */
const FORMATS: Record<string, [z.ZodType, string]> = {
  "process@2": [processDefinition, "A process: form, access, route, samples"],
  "register@1": [registerShape, "A register: its columns and how its records are named"],
  "calendar@1": [workingCalendar, "A working calendar"],
  "form-data@1": [formData, "Values of a form, as stored and sent"],
  "edit@2": [edit, "One edit of a draft"],
};
const folder = new URL("../docs/formats/", import.meta.url);
const check = process.argv.includes("--check");
let stale = 0;
for (const [name, [schema, title]] of Object.entries(FORMATS)) {
  const file = new URL(`${name}.schema.json`, folder);
  const { $schema, ...rest } = z.toJSONSchema(schema, { unrepresentable: "any", io: "input" });
  const text = `${JSON.stringify({ $schema, $id: `urn:cobble-step:${name}`, title, ...rest }, null, 2)}\n`;
  if (!check) writeFileSync(file, text);
  else if (!existsSync(file) || readFileSync(file, "utf8") !== text) {
    process.stdout.write(`${name} is not current: npm run formats\n`);
    stale++;
  }
}
for (const file of readdirSync(folder))
  if (!(file.replace(".schema.json", "") in FORMATS)) {
    process.stdout.write(`${file} is of a format that is not written any more\n`);
    stale++;
  }
process.exitCode = stale > 0 ? 1 : 0;
