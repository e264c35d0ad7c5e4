import { z } from "zod";
import { OPERATIONS, type Operation } from "./operations";

type Json = Record<string, unknown>;
const schemaOf = (s: z.ZodType, io: "input" | "output"): Json => {
  const {
    $schema: _dialect,
    $defs,
    ...schema
  } = z.toJSONSchema(s, { io, unrepresentable: "any", target: "draft-2020-12" }) as Json;
  return $defs ? { ...schema, $defs } : schema;
};
const problem: Json = {
  type: "object",
  required: ["type", "title", "status", "detail"],
  properties: {
    type: { type: "string" },
    title: { type: "string" },
    status: { type: "integer" },
    detail: { type: "string", description: "A sentence for a person" },
    code: { type: "string" },
    problems: {
      type: "array",
      items: {
        type: "object",
        properties: { path: { type: "string" }, code: { type: "string" }, message: { type: "string" } },
      },
    },
  },
};

function operation(o: Operation): Json {
  const params = [...o.path.matchAll(/\{(\w+)\}/g)].map((m) => ({
    name: m[1],
    in: "path",
    required: true,
    schema: { type: "string" },
  }));
  const query = o.query
    ? Object.entries((schemaOf(o.query, "input")["properties"] ?? {}) as Record<string, Json>).map(
        ([name, schema]) => ({ name, in: "query", schema }),
      )
    : [];
  const key = o.idempotent
    ? [
        {
          name: "Idempotency-Key",
          in: "header",
          schema: { type: "string", maxLength: 200 },
          description:
            "A second call with the same key makes no second request; it gives the number of the first.",
        },
      ]
    : [];
  return {
    operationId: o.id,
    summary: o.summary,
    parameters: [...params, ...query, ...key],
    ...(o.carries === "bytes in"
      ? { requestBody: { required: true, content: { "application/octet-stream": {} } } }
      : {}),
    ...(o.body
      ? {
          requestBody: {
            required: true,
            content: { "application/json": { schema: schemaOf(o.body, "input") } },
          },
        }
      : {}),
    responses: {
      [o.status]: {
        description: "Done",
        content:
          o.carries === "bytes out"
            ? { "application/octet-stream": {} }
            : { "application/json": { schema: schemaOf(o.response, "output") } },
      },
      default: {
        description: "Refused; detail says why in words (RFC 9457)",
        content: { "application/problem+json": { schema: { $ref: "#/components/schemas/Problem" } } },
      },
    },
  };
}

/** The OpenAPI 3.1 document, made from the same list that the routes are made from. */
export function openApiDocument(): Json {
  const paths: Record<string, Json> = {};
  for (const o of OPERATIONS) (paths[o.path] ??= {})[o.method.toLowerCase()] = operation(o);
  return {
    openapi: "3.1.0",
    info: {
      title: "Cobble Step",
      version: "1",
      description:
        "Makes, reads and answers requests; reads and changes drafts; reads registers. Keys are made in Office and act as the person they were made for.",
    },
    servers: [{ url: "/api/v1" }],
    security: [{ key: [] }],
    paths,
    components: {
      securitySchemes: { key: { type: "http", scheme: "bearer" } },
      schemas: { Problem: problem },
    },
  };
}
