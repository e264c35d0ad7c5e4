import { z } from "zod";
import { edit, formData, processDefinition } from "@/contracts";
import type { FileFacts } from "@/core/form";
import {
  act,
  addFile,
  catalogue,
  desk,
  draftProblems,
  draftView,
  editDraft,
  myRequests,
  ok,
  readFile,
  recordPage,
  registerList,
  registerPage,
  releaseDraft,
  requestView,
  startRequest,
  taskView,
  type Actor,
  type Outcome,
} from "@/services";

const time = z.iso.datetime().describe("UTC, RFC 3339");
const iso = (ms: number): string => new Date(ms).toISOString();
const isoOr = (ms: number | null): string | null => (ms === null ? null : iso(ms));
const number = z.string().max(40).describe("Request number, for example LOAN-0042");
const page = {
  offset: z.coerce.number().int().min(0).default(0),
  limit: z.coerce.number().int().min(1).max(500).default(50),
};

export interface Operation {
  id: string;
  method: "GET" | "POST" | "PUT";
  /** With {names} for the parts that vary. */
  path: string;
  summary: string;
  status: number;
  query?: z.ZodObject;
  body?: z.ZodType;
  response: z.ZodType;
  idempotent?: true;
  /** Bytes instead of JSON: as the body, or as the answer (a FileAnswer then). */
  carries?: "bytes in" | "bytes out";
  run(actor: Actor, input: Input): Promise<Outcome<unknown>>;
}
export interface FileAnswer {
  file: FileFacts;
  bytes: Buffer;
}
export interface Input {
  path: Record<string, string>;
  // Checked against the operation's own schemas before it is called.
  query: Record<string, never>;
  body: never;
  idempotencyKey: string | null;
}

const define = <Q extends z.ZodObject, B extends z.ZodType>(
  o: Omit<Operation, "run" | "query" | "body"> & {
    query?: Q;
    body?: B;
    run(
      actor: Actor,
      input: {
        path: Record<string, string>;
        query: z.infer<Q>;
        body: z.infer<B>;
        idempotencyKey: string | null;
      },
    ): Promise<Outcome<unknown>>;
  },
): Operation => o as unknown as Operation;

const map = <T, U>(o: Outcome<T>, f: (v: T) => U): Outcome<U> => (o.ok ? ok(f(o.value)) : o);
const at = (p: Record<string, string>, name: string): string => p[name] ?? "";

const requestSummary = z.object({
  number,
  title: z.string(),
  process: z.string(),
  status: z.string(),
  result: z.string().nullable(),
  started: time,
  ended: time.nullable(),
  waitingFor: z.array(z.string()).describe("Person ids"),
});
const taskSummary = z.object({
  request: number,
  task: z.string(),
  step: z.string(),
  title: z.string(),
  process: z.string(),
  requester: z.string(),
  purpose: z.enum(["decide", "complete", "changes"]),
  status: z.string(),
  opened: time,
  due: time.nullable(),
});
const record = z
  .object({ id: z.string() })
  .catchall(z.union([z.string(), z.boolean(), z.null()]))
  .describe("Column values: decimals as text, dates ISO, links and people as ids");
const done = z.object({ number });
const problem = z.object({
  severity: z.enum(["error", "warning"]),
  code: z.string(),
  where: z.object({ kind: z.string(), id: z.string(), place: z.string().optional() }),
  message: z.string(),
});
const note = z.string().max(4000).default("");
const onTask = "/requests/{number}/tasks/{task}";

/** Every operation of the HTTP API. Routes, checks and the OpenAPI document all come from this list. */
export const OPERATIONS: readonly Operation[] = [
  define({
    id: "listProcesses",
    method: "GET",
    path: "/processes",
    summary: "Processes open to the caller",
    status: 200,
    response: z.object({
      processes: z.array(
        z.object({ key: z.string(), name: z.string(), purpose: z.string(), version: z.string() }),
      ),
    }),
    run: async (actor) => ok({ processes: (await catalogue(actor)).entries }),
  }),
  define({
    id: "startRequest",
    method: "POST",
    path: "/processes/{process}/requests",
    summary: "Makes a request",
    status: 201,
    idempotent: true,
    body: z.object({ data: formData }),
    response: z.object({ number }),
    run: async (actor, { path, body, idempotencyKey }) =>
      map(await startRequest(actor, at(path, "process"), body.data, idempotencyKey), (v) => ({
        number: v.number,
      })),
  }),
  define({
    id: "listMyRequests",
    method: "GET",
    path: "/requests",
    summary: "The caller's own requests, newest first",
    status: 200,
    query: z.object(page),
    response: z.object({ requests: z.array(requestSummary), total: z.int() }),
    run: async (actor, { query }) => {
      const { rows, total } = await myRequests(actor, query.offset, query.limit);
      return ok({
        total,
        requests: rows.map((r) => ({
          number: r.number,
          title: r.title,
          process: r.process_key,
          status: r.status,
          result: r.result,
          started: iso(r.started_at),
          ended: isoOr(r.ended_at),
          waitingFor: r.waiting_for,
        })),
      });
    },
  }),
  define({
    id: "readRequest",
    method: "GET",
    path: "/requests/{number}",
    summary: "One request: its data as far as the caller may see them, who has it, what happened",
    status: 200,
    response: z.object({
      number,
      title: z.string(),
      process: z.string(),
      release: z.string(),
      requester: z.string(),
      status: z.string(),
      result: z.string().nullable(),
      started: time,
      ended: time.nullable(),
      data: formData,
      waiting: z.array(
        z.object({ task: z.string(), step: z.string(), people: z.array(z.string()), due: time.nullable() }),
      ),
      trail: z.array(z.object({ at: time, by: z.string().nullable(), text: z.string(), note: z.string() })),
    }),
    run: async (actor, { path }) =>
      map(await requestView(actor, at(path, "number")), (v) => ({
        number: v.number,
        title: v.title,
        process: v.process.key,
        release: v.process.version,
        requester: v.requester.id,
        status: v.status,
        result: v.result?.name ?? null,
        started: iso(v.startedAt),
        ended: isoOr(v.endedAt),
        data: v.form.data,
        waiting: v.waiting.map((w) => ({
          task: w.task,
          step: w.step,
          people: w.people.map((p) => p.name),
          due: isoOr(w.due),
        })),
        trail: v.trail.map((l) => ({ at: iso(l.at), by: l.by, text: l.text, note: l.note })),
      })),
  }),
  define({
    id: "withdrawRequest",
    method: "POST",
    path: "/requests/{number}/withdraw",
    summary: "Withdraws the caller's own request",
    status: 200,
    body: z.object({ note }),
    response: done,
    run: async (actor, { path, body }) =>
      map(await act(actor, at(path, "number"), { type: "withdraw", note: body.note }), (v) => ({
        number: v.number,
      })),
  }),
  define({
    id: "listTasks",
    method: "GET",
    path: "/tasks",
    summary: "What waits for the caller, soonest limit first",
    status: 200,
    response: z.object({ tasks: z.array(taskSummary), total: z.int() }),
    run: async (actor) => {
      const { rows, total } = await desk(actor);
      return ok({
        total,
        tasks: rows.map((r) => ({
          request: r.number,
          task: r.task_id,
          step: r.step_name,
          title: r.title,
          process: r.process_key,
          requester: r.requester_id,
          purpose: r.purpose,
          status: r.status,
          opened: iso(r.opened_at),
          due: isoOr(r.due_at),
        })),
      });
    },
  }),
  define({
    id: "readTask",
    method: "GET",
    path: onTask,
    summary: "One task of the caller's: the data as the step shows them, and the answers",
    status: 200,
    response: z.object({
      request: number,
      task: z.string(),
      step: z.string(),
      due: time.nullable(),
      data: formData,
      access: z.record(z.string(), z.enum(["edit", "see", "hide"])),
      answers: z.array(z.object({ id: z.string(), label: z.string(), needsNote: z.boolean() })),
    }),
    run: async (actor, { path }) =>
      map(await taskView(actor, at(path, "number"), at(path, "task")), (v) => ({
        request: v.request.number,
        task: v.task.id,
        step: v.task.step,
        due: isoOr(v.task.due),
        data: v.form.data,
        access: v.form.access,
        answers: v.answers.map((a) => ({ id: a.id, label: a.label, needsNote: a.note })),
      })),
  }),
  define({
    id: "answerTask",
    method: "POST",
    path: `${onTask}/answer`,
    summary: "Answers a task",
    status: 200,
    body: z.object({ answer: z.string().max(100), note, data: formData.default({}) }),
    response: done,
    run: async (actor, { path, body }) =>
      map(await act(actor, at(path, "number"), { type: "answer", task: at(path, "task"), ...body }), (v) => ({
        number: v.number,
      })),
  }),
  define({
    id: "takeTask",
    method: "POST",
    path: `${onTask}/take`,
    summary: "Takes a task that several people could answer",
    status: 200,
    response: done,
    run: async (actor, { path }) =>
      map(await act(actor, at(path, "number"), { type: "take", task: at(path, "task") }), (v) => ({
        number: v.number,
      })),
  }),
  define({
    id: "putBackTask",
    method: "POST",
    path: `${onTask}/put-back`,
    summary: "Puts a taken task back",
    status: 200,
    response: done,
    run: async (actor, { path }) =>
      map(await act(actor, at(path, "number"), { type: "put back", task: at(path, "task") }), (v) => ({
        number: v.number,
      })),
  }),
  define({
    id: "handOverTask",
    method: "POST",
    path: `${onTask}/hand-over`,
    summary: "Hands a task over to a colleague",
    status: 200,
    body: z.object({ to: z.string().max(100).describe("Person id"), note }),
    response: done,
    run: async (actor, { path, body }) =>
      map(
        await act(actor, at(path, "number"), { type: "hand over", task: at(path, "task"), ...body }),
        (v) => ({ number: v.number }),
      ),
  }),
  define({
    id: "addFile",
    method: "POST",
    path: "/files",
    summary: "Adds a file; its id is then the value of a file field in a form the caller sends",
    status: 201,
    carries: "bytes in",
    query: z.object({ name: z.string().min(1).max(400).describe("With its ending, for example quote.pdf") }),
    response: z.object({
      id: z.string(),
      name: z.string(),
      size: z.int().describe("Bytes"),
      type: z.string().describe("Media type, by the ending of the name"),
    }),
    run: async (actor, { query, body }) =>
      map(await addFile(actor, query.name, body as unknown as Buffer), ({ id, name, size, type }) => ({
        id,
        name,
        size,
        type,
      })),
  }),
  define({
    id: "readFile",
    method: "GET",
    path: "/files/{file}",
    summary: "A file, for whoever may see the field it stands in",
    status: 200,
    carries: "bytes out",
    response: z.unknown(),
    run: async (actor, { path }) => readFile(actor, at(path, "file")),
  }),
  define({
    id: "readDraft",
    method: "GET",
    path: "/processes/{process}/draft",
    summary: "The draft of a process the caller may design",
    status: 200,
    response: z.object({
      version: z.int().describe("Counts edits; send it back with a change"),
      definition: processDefinition,
    }),
    run: async (actor, { path }) =>
      map(await draftView(actor, at(path, "process")), (v) => ({
        version: v.version,
        definition: v.definition,
      })),
  }),
  define({
    id: "putDraft",
    method: "PUT",
    path: "/processes/{process}/draft",
    summary: "Replaces the draft, if nobody changed it since that version",
    status: 200,
    body: z.object({ version: z.int(), definition: processDefinition }),
    response: z.object({ version: z.int() }),
    run: async (actor, { path, body }) =>
      map(
        await editDraft(actor, at(path, "process"), body.version, [
          { op: "process.replace", definition: body.definition },
        ]),
        (v) => ({ version: v.version }),
      ),
  }),
  define({
    id: "editDraft",
    method: "POST",
    path: "/processes/{process}/draft/edits",
    summary: "Applies edits to the draft, all or none",
    status: 200,
    body: z.object({ version: z.int(), edits: z.array(edit).min(1).max(500) }),
    response: z.object({ version: z.int() }),
    run: async (actor, { path, body }) =>
      map(await editDraft(actor, at(path, "process"), body.version, body.edits), (v) => ({
        version: v.version,
      })),
  }),
  define({
    id: "listProblems",
    method: "GET",
    path: "/processes/{process}/problems",
    summary: "What is wrong with the draft; errors keep it from being released",
    status: 200,
    response: z.object({ problems: z.array(problem) }),
    run: async (actor, { path }) =>
      map(await draftProblems(actor, at(path, "process")), (v) => ({
        problems: v.map(({ severity, code, where, message }) => ({ severity, code, where, message })),
      })),
  }),
  define({
    id: "release",
    method: "POST",
    path: "/processes/{process}/releases",
    summary: "Releases the draft under a version and puts it live",
    status: 201,
    body: z.object({ version: z.string().max(30), note: z.string().max(2000).default("") }),
    response: z.object({ version: z.string() }),
    run: async (actor, { path, body }) =>
      map(await releaseDraft(actor, at(path, "process"), body.version, body.note), (v) => ({
        version: v.version,
      })),
  }),
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
    run: async (actor) =>
      ok({
        registers: (await registerList(actor)).map((r) => ({
          key: r.shape.key,
          name: r.shape.name,
          count: r.count,
          columns: r.shape.columns.map(({ id, name, kind }) => ({ id, name, kind })),
        })),
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
    response: z.object({ records: z.array(record), total: z.int() }),
    run: async (actor, { path, query }) =>
      map(
        await registerPage(
          actor,
          at(path, "register"),
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
          records: v.rows.map((r) => Object.fromEntries(Object.entries(r).filter(([k]) => !k.endsWith("#")))),
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
    run: async (actor, { path }) =>
      map(await recordPage(actor, at(path, "register"), at(path, "record")), (v) => ({
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
