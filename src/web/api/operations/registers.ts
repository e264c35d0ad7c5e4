import { z } from "zod";
import { ok, recordPage, registerList, registerPage } from "@/services";
import { define, map, type Operation } from "../operation";
import { iso, page, record, time, total } from "../schemas";

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
      sort: z.string().max(60).default("").describe("Column id, with - before it for the greatest first"),
      where: z
        .string()
        .max(4000)
        .default("")
        .describe(
          "A formula over the register's columns by name that every record must meet, for example: Insured value > 1000",
        ),
    }),
    response: z.object({ records: z.array(record), total }),
    example: {
      response: { total: 1, records: [{ id: "4", name: "Strong room, Tower House", risk_grade: "high" }] },
    },
    run: async (actor, { path, query }) =>
      map(
        await registerPage(
          actor,
          path("register"),
          {
            search: query.search,
            filters: [],
            sort: query.sort
              ? { column: query.sort.replace(/^-/, ""), descending: query.sort.startsWith("-") }
              : null,
            offset: query.offset,
            limit: query.limit,
          },
          query.where,
        ),
        (v) => ({
          total: v.total,
          records: v.rows.map((r) => ({
            ...Object.fromEntries(Object.entries(r).filter(([k]) => !k.endsWith("#"))),
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
];
