import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import addFormats from "ajv-formats";
import { Ajv2020, type ValidateFunction } from "ajv/dist/2020";
import { CALENDARS } from "../../demo/people";
import { SHAPES } from "../../demo/registers/shapes";

/** What we publish is held to by a validator that knows nothing of how we made it. */
const folder = join(process.cwd(), "docs/formats");
const schemas = new Map(
  readdirSync(folder).map((file): [string, Record<string, unknown>] => [
    file.replace(".schema.json", ""),
    JSON.parse(readFileSync(join(folder, file), "utf8")) as Record<string, unknown>,
  ]),
);
const ajv = new Ajv2020({ strict: false, allErrors: true });
addFormats(ajv);
const check = new Map([...schemas].map(([name, s]): [string, ValidateFunction] => [name, ajv.compile(s)]));
const wrong = (name: string, document: unknown): string => {
  const validate = check.get(name)!;
  return validate(document) ? "" : ajv.errorsText(validate.errors).slice(0, 400);
};

it("each says which it is, in the dialect it is written in", () => {
  for (const [name, s] of schemas) {
    expect(s["$id"]).toBe(`urn:cobble-step:${name}`);
    expect(s["$schema"]).toBe("https://json-schema.org/draft/2020-12/schema");
  }
});

const processes = readdirSync("demo/processes").map((file): [string, Record<string, unknown>] => [
  file,
  JSON.parse(readFileSync(join("demo/processes", file), "utf8")) as Record<string, unknown>,
]);
it.each(processes)("%s is a process by the published schema", (_, document) => {
  expect(wrong("process@2", document)).toBe("");
  for (const s of document["samples"] as { data: unknown }[]) expect(wrong("form-data@1", s.data)).toBe("");
});
it("every shipped register and calendar is one by the published schema", () => {
  for (const shape of SHAPES) expect([shape.key, wrong("register@1", shape)]).toEqual([shape.key, ""]);
  for (const c of CALENDARS) expect(wrong("calendar@1", c)).toBe("");
});
it("edits are, and what is none is refused", () => {
  expect(wrong("edit@2", { op: "field.set", id: "a", patch: { help: "x", worked: null } })).toBe("");
  expect(wrong("edit@2", { op: "field.set", id: "a", patch: { colour: "red" } })).not.toBe("");
  expect(wrong("edit@2", { op: "step.move", id: "a", to: { owner: null, list: null }, index: 3 })).not.toBe(
    "",
  );
  expect(wrong("process@2", { ...processes[0]![1], format: "cobble-step/process@1" })).not.toBe("");
});
