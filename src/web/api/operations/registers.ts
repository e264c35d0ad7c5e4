import { z } from "zod";
import { ok, recordPage, registerList, registerPage, removeRecord, saveRecord } from "@/services";
import { define, map, type Operation } from "../operation";
import { iso, page, record, time, total } from "../schemas";

const list = (text: string): string[] => text.split(",").flatMap((x) => (x.trim() ? [x.trim()] : []));
const wanted = (fields: string, column: string): boolean =>
  fields.trim() === "" || list(fields).includes(column);
/** The version that was seen; null to write over whatever is there. */
const version = (ifMatch: string | null): string | null => (ifMatch === "*" ? null : ifMatch);
const values = z.record(z.string().max(60), z.union([z.string().max(20_000), z.boolean(), z.null()]));
const written = z.object({ id: z.string(), version: z.string() });

export const REGISTERS: readonly Operation[] = [
  define({
    id: "listRegisters",
    method: "GET",
    path: "/registers",
    summary: "Registers with their columns",
    status: 200,
    response: z.object({
      registers: z.array(
        z.object({
          key: z.string(),
          name: z.string(),
          count: z.int(),
          columns: z.array(z.object({ id: z.string(), name: z.string(), kind: z.string() })),
        }),
      ),
    }),
    example: {
      response: {
        registers: [
          { key: "stores", name: "Stores", count: 28, columns: [{ id: "name", name: "Name", kind: "text" }] },
        ],
      },
    },
    run: async (actor) =>
      ok({
        registers: (await registerList(actor)).flatMap(({ shape, count }) => {
          const columns = shape.columns.map(({ id, name, kind }) => ({ id, name, kind }));
          return count === null ? [] : [{ key: shape.key, name: shape.name, count, columns }];
        }),
      }),
  }),
  define({
    id: "listRecords",
    method: "GET",
    path: "/registers/{register}/records",
    summary: "Records of a register",
    status: 200,
    query: z.object({
      ...page,
      search: z.string().max(200).default(""),
      sort: z
        .string()
        .max(200)
        .default("")
        .describe("Column ids with commas between, each with - before it for the greatest first"),
      after: z
        .string()
        .max(8000)
        .default("")
        .describe(
          "What an answer gave as next, with the same sort: the records behind those. However many there are, all are come to so; by offset only the first 5,000",
        ),
      fields: z
        .string()
        .max(4000)
        .default("")
        .describe("Column ids with commas between, to be given alone; all without"),
      where: z
        .string()
        .max(4000)
        .default("")
        .describe(
          "A formula over the register's columns by name that every record must meet, for example: Insured value > 1000",
        ),
    }),
    response: z.object({
      records: z.array(record),
      total,
      next: z.string().nullable().describe("Where the next ones begin, to be sent as after; null at the end"),
    }),
    example: {
      response: {
        total: 1,
        next: null,
        records: [{ id: "4", name: "Strong room, Tower House", risk_grade: "high" }],
      },
    },
    run: async (actor, { path, query }) =>
      map(
        await registerPage(
          actor,
          path("register"),
          {
            search: query.search,
            filters: [],
            sort: list(query.sort).map((x) => ({
              column: x.replace(/^-/, ""),
              descending: x.startsWith("-"),
            })),
            offset: query.offset,
            limit: query.limit,
            ...(query.after ? { from: { place: query.after, back: false } } : {}),
          },
          query.where,
        ),
        (v) => ({
          total: v.total,
          next: v.next,
          records: v.rows.map((r) => ({
            ...Object.fromEntries(
              Object.entries(r).filter(([k]) => !k.endsWith("#") && wanted(query.fields, k)),
            ),
            id: r.id,
          })),
        }),
      ),
  }),
  define({
    id: "readRecord",
    method: "GET",
    path: "/registers/{register}/records/{record}",
    summary: "One record with the history of its changes",
    status: 200,
    response: z.object({
      record,
      version: z.string().describe("To be sent back in If-Match with a change"),
      history: z.array(
        z.object({
          at: time,
          by: z.string().nullable(),
          request: z.string().nullable(),
          did: z.string(),
          before: z.record(z.string(), z.unknown()).nullable(),
          after: z.record(z.string(), z.unknown()).nullable(),
        }),
      ),
    }),
    example: {
      response: {
        record: { id: "4", name: "Strong room, Tower House", key_status: "out" },
        version: "1234",
        history: [
          {
            at: "2026-12-02T10:00:00.000Z",
            by: "eamon.stack",
            request: "KEY-0042",
            did: "changed",
            before: { key_status: "in the cabinet" },
            after: { key_status: "out" },
          },
        ],
      },
    },
    run: async (actor, { path }) =>
      map(await recordPage(actor, path("register"), path("record")), (v) => ({
        record: v.record,
        version: v.version,
        history: v.history.map((h) => ({
          at: iso(h.at),
          by: h.by_person,
          request: h.request_number,
          did: h.did,
          before: h.before,
          after: h.after,
        })),
      })),
  }),
  define({
    id: "addRecord",
    method: "POST",
    path: "/registers/{register}/records",
    summary: "Adds a record",
    status: 201,
    body: values,
    response: written,
    example: {
      body: { name: "Strong room, Annexe", risk_grade: "high" },
      response: { id: "29", version: "1240" },
    },
    run: (actor, { path, body }) => saveRecord(actor, path("register"), null, null, body),
  }),
  define({
    id: "changeRecord",
    method: "PATCH",
    path: "/registers/{register}/records/{record}",
    summary: "Changes columns of a record; those that are left out stay",
    status: 200,
    matches: true,
    body: values,
    response: written,
    example: { body: { risk_grade: "medium" }, response: { id: "4", version: "1241" } },
    run: (actor, { path, body, ifMatch }) =>
      saveRecord(actor, path("register"), path("record"), version(ifMatch), body),
  }),
  define({
    id: "removeRecord",
    method: "DELETE",
    path: "/registers/{register}/records/{record}",
    summary: "Removes a record",
    status: 200,
    matches: true,
    query: z.object({
      clear: z
        .enum(["links", ""])
        .default("")
        .describe("links: empties what points at it; without, it is refused where anything does"),
    }),
    response: z.object({ removed: z.literal(true) }),
    example: { response: { removed: true } },
    run: async (actor, { path, query, ifMatch }) =>
      map(
        await removeRecord(
          actor,
          path("register"),
          path("record"),
          version(ifMatch),
          query.clear === "links",
        ),
        () => ({ removed: true }) as const,
      ),
  }),
];
