import { validate } from "@readme/openapi-parser";
import addFormats from "ajv-formats";
import { Ajv2020 } from "ajv/dist/2020.js";
import { openApiDocument } from "../src/web/api/openapi";
import { OPERATIONS } from "../src/web/api/operations";

type Json = Record<string, unknown>;

/** Holds the OpenAPI document against the standard's own schema, and every example against the document. */
async function main() {
  const wrong: string[] = [];
  const document = JSON.parse(JSON.stringify(openApiDocument())) as Json;
  const result = await validate(
    structuredClone(document) as never,
    { resolve: { external: false } } as never,
  );
  if (!result.valid) wrong.push(...result.errors.map((e) => e.message));

  const ajv = new Ajv2020({ strict: false });
  addFormats.default(ajv);
  ajv.addSchema({ ...document, $id: "https://api.example/v1" });
  const paths = document["paths"] as Record<string, Record<string, Json>>;
  for (const o of OPERATIONS) {
    const at = ["", "paths", o.path.replaceAll("/", "~1"), o.method.toLowerCase()];
    const content = (where: string[], example: unknown) => {
      const ref = `https://api.example/v1#${[...at, ...where, "content", "application~1json", "schema"].map(encodeURIComponent).join("/")}`;
      if (example === undefined) return wrong.push(`${o.id} has no example of its ${where[0]}`);
      const check = ajv.getSchema(ref) ?? ajv.compile({ $ref: ref });
      if (!check(example)) wrong.push(`${o.id}, example of its ${where[0]}: ${ajv.errorsText(check.errors)}`);
    };
    if (!paths[o.path]?.[o.method.toLowerCase()]) wrong.push(`${o.id} is not in the document`);
    if (o.body) content(["requestBody"], o.example?.body);
    if (o.response) content(["responses", String(o.status)], o.example?.response);
  }
  for (const line of wrong) process.stdout.write(`${line}\n`);
  process.exitCode = wrong.length > 0 ? 1 : 0;
}
void main();
