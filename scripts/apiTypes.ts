import { existsSync, readFileSync, writeFileSync } from "node:fs";
import openapiTS, { astToString } from "openapi-typescript";
import { format, resolveConfig } from "prettier";
import { openApiDocument } from "../src/web/api/openapi";

/** Generates the types of the HTTP API from its own document, or with --check says whether those kept are current. */
async function main() {
  const file = new URL("../tests/api/schema.ts", import.meta.url);
  const types = astToString(await openapiTS(JSON.parse(JSON.stringify(openApiDocument()))));
  const options = await resolveConfig(file.pathname);
  const text = await format(`/* Generated from the OpenAPI document: npm run formats. */\n${types}`, {
    ...options,
    filepath: file.pathname,
  });
  if (!process.argv.includes("--check")) return writeFileSync(file, text);
  if (existsSync(file) && readFileSync(file, "utf8") === text) return;
  process.stdout.write("The types of the API are not current: npm run formats\n");
  process.exitCode = 1;
}
void main();
