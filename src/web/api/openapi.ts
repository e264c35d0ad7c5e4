import { z } from "zod";
import type { Operation } from "./operation";
import { OPERATIONS } from "./operations";

type Json = Record<string, unknown>;

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
        properties: {
          path: { type: "string" },
          code: { type: "string" },
          message: { type: "string" },
          pass: {
            type: "string",
            description: "Of a check that may be passed: what a reason under passed is given by",
          },
        },
      },
    },
    changes: {
      type: "array",
      description: "With read-anew: values the answer reads anew, as texts and, under value, as data",
      items: {
        type: "object",
        properties: {
          path: { type: "string" },
          name: { type: "string" },
          from: { type: "string" },
          to: { type: "string" },
          value: { type: ["string", "boolean", "null"] },
        },
      },
    },
  },
};

/** The schemas of the document by name: what operations share stands here once and is pointed at. */
class Components {
  readonly schemas: Record<string, Json> = { Problem: problem };

  /** A schema as it stands in an operation; what it is made of goes among the components. */
  of(schema: z.ZodType, io: "input" | "output"): Json {
    const {
      $schema: _dialect,
      $defs = {},
      ...own
    } = z.toJSONSchema(schema, { io, unrepresentable: "any", target: "draft-2020-12" }) as Json;
    const names = new Map<string, string>();
    for (const name of Object.keys($defs as Json)) names.set(name, this.nameFor(name, $defs as Json, io));
    const pointed = <T>(json: T): T =>
      JSON.parse(JSON.stringify(json), (key, value: unknown) => {
        const name = key === "$ref" && typeof value === "string" ? value.replace("#/$defs/", "") : null;
        return name !== null ? `#/components/schemas/${names.get(name) ?? name}` : value;
      }) as T;
    for (const [name, definition] of Object.entries($defs as Record<string, Json>)) {
      const { id: _id, ...rest } = definition;
      this.schemas[names.get(name)!] = pointed(rest);
    }
    const { id: _id, ...rest } = own;
    return pointed(rest);
  }

  /** What is sent and what is given may differ where something has a default; then each has its name. */
  private nameFor(name: string, all: Json, io: "input" | "output"): string {
    const known = this.taken.get(name);
    const text = JSON.stringify(all[name]);
    if (known === undefined || known === text) {
      this.taken.set(name, text);
      return name;
    }
    return `${name}${io === "input" ? "Sent" : "Given"}`;
  }
  private readonly taken = new Map<string, string>();
}

const PROBLEM = { "application/problem+json": { schema: { $ref: "#/components/schemas/Problem" } } };

function operation(o: Operation, components: Components): Json {
  const inPath = [...o.path.matchAll(/\{(\w+)\}/g)].map((m) => ({
    name: m[1],
    in: "path",
    required: true,
    schema: { type: "string" },
  }));
  const query = o.query ? components.of(o.query, "input") : {};
  const needed = new Set((query["required"] ?? []) as string[]);
  const inQuery = Object.entries((query["properties"] ?? {}) as Record<string, Json>).map(
    ([name, schema]) => ({
      name,
      in: "query",
      required: needed.has(name),
      schema,
    }),
  );
  const key = {
    name: "Idempotency-Key",
    in: "header",
    schema: { type: "string", maxLength: 200 },
    description: "A second call with the same key makes no second request; it gives the number of the first.",
  };
  return {
    operationId: o.id,
    summary: o.summary,
    parameters: [...inPath, ...inQuery, ...(o.idempotent ? [key] : []), ...(o.matches ? [MATCH] : [])],
    ...requestBody(o, components),
    responses: {
      [o.status]: { description: "Done", content: answer(o, components) },
      default: { description: "Refused; detail says why in words (RFC 9457)", content: PROBLEM },
    },
  };
}

const MATCH = {
  name: "If-Match",
  in: "header",
  required: true,
  schema: { type: "string" },
  description: 'The version that was seen, as "1234", or * for whatever is there. Another by now: 412.',
};

const BYTES = { "application/octet-stream": { schema: { type: "string", format: "binary" } } };

function requestBody(o: Operation, components: Components): Json {
  if (o.carries === "bytes in") return { requestBody: { required: true, content: BYTES } };
  if (!o.body) return {};
  const json = { schema: components.of(o.body, "input"), example: o.example?.body };
  return { requestBody: { required: true, content: { "application/json": json } } };
}

function answer(o: Operation, components: Components): Json {
  if (!o.response) return BYTES;
  return {
    "application/json": { schema: components.of(o.response, "output"), example: o.example?.response },
  };
}

let made: Json | null = null;
/** The OpenAPI 3.1 document, made from the same list that the routes are made from. */
export function openApiDocument(): Json {
  if (made) return made;
  const components = new Components();
  const paths: Record<string, Json> = {};
  for (const o of OPERATIONS) (paths[o.path] ??= {})[o.method.toLowerCase()] = operation(o, components);
  made = {
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
      schemas: components.schemas,
    },
  };
  return made;
}
