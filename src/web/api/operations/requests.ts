import { z } from "zod";
import { emailAddress, formData } from "@/contracts";
import { act, catalogue, myRequests, ok, requestView, startRequest } from "@/services";
import { define, map, type Operation } from "../operation";
import {
  asker,
  done,
  iso,
  isoOr,
  note,
  number,
  page,
  passedReasons,
  requestSummary,
  time,
  unclear,
  total,
} from "../schemas";

export const REQUESTS: readonly Operation[] = [
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
    example: {
      response: {
        processes: [
          { key: "store-key", name: "Store key", purpose: "Who gets which key.", version: "1.0.0" },
        ],
      },
    },
    run: async (actor) => ok({ processes: (await catalogue(actor)).entries }),
  }),
  define({
    id: "startRequest",
    method: "POST",
    path: "/processes/{process}/requests",
    summary: "Makes a request",
    status: 201,
    idempotent: true,
    body: z.object({
      data: formData,
      for: z
        .object({ name: z.string().trim().min(1).max(120), email: emailAddress })
        .optional()
        .describe("Whom a program asks for, where that is somebody who does not work here"),
      press: z
        .object({
          start: z.string().max(60),
          record: z
            .string()
            .regex(/^\d{1,18}$/)
            .meta({ examples: ["42"] }),
        })
        .optional()
        .describe("What a record's page offers: the id of the start, and of the record"),
      passed: passedReasons,
    }),
    response: z.object({ number }),
    example: {
      body: {
        data: {
          store: "4",
          from: "2026-12-07",
          until: "2026-12-09",
          purpose: "Condition check",
          trained: true,
        },
      },
      response: { number: "KEY-0042" },
    },
    run: async (actor, { path, body, idempotencyKey }) =>
      map(
        await startRequest(
          actor,
          path("process"),
          body.data,
          idempotencyKey,
          undefined,
          body.for ?? null,
          body.press ?? null,
          body.passed,
        ),
        (v) => ({ number: v.number }),
      ),
  }),
  define({
    id: "listMyRequests",
    method: "GET",
    path: "/requests",
    summary: "The caller's own requests, newest first",
    status: 200,
    query: z.object(page),
    response: z.object({ requests: z.array(requestSummary), total }),
    example: {
      response: {
        total: 1,
        requests: [
          {
            number: "KEY-0042",
            title: "Cold room, Tower House",
            process: "store-key",
            status: "under way",
            result: null,
            started: "2026-12-01T09:12:00.000Z",
            ended: null,
            waitingFor: ["fintan.galloway"],
          },
        ],
      },
    },
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
      requester: z.string().nullable().describe("Whose own it is: an account's id"),
      asker,
      status: z.string(),
      result: z.string().nullable(),
      started: time,
      ended: time.nullable(),
      data: formData,
      unclear,
      stuck: z.array(z.string()),
      waiting: z.array(
        z.object({ task: z.string(), step: z.string(), people: z.array(z.string()), due: time.nullable() }),
      ),
      trail: z.array(z.object({ at: time, by: z.string().nullable(), text: z.string(), note: z.string() })),
    }),
    example: {
      response: {
        number: "KEY-0042",
        title: "Cold room, Tower House",
        process: "store-key",
        release: "1.0.0",
        requester: "lucia.penrose",
        asker: { kind: "person", name: "Lucia Penrose", email: null },
        status: "under way",
        result: null,
        started: "2026-12-01T09:12:00.000Z",
        ended: null,
        data: { store: "4", purpose: "Condition check" },
        unclear: {},
        stuck: [],
        waiting: [
          {
            task: "t3",
            step: "Manager decides",
            people: ["Fintan Galloway"],
            due: "2026-12-03T09:12:00.000Z",
          },
        ],
        trail: [{ at: "2026-12-01T09:12:00.000Z", by: "lucia.penrose", text: "made the request", note: "" }],
      },
    },
    run: async (actor, { path }) =>
      map(await requestView(actor, path("number")), (v) => ({
        number: v.number,
        title: v.title,
        process: v.process.key,
        release: v.process.version,
        requester: v.requester.id,
        asker: { kind: v.requester.kind, name: v.requester.name, email: v.requester.email },
        status: v.status,
        result: v.result?.name ?? null,
        started: iso(v.startedAt),
        ended: isoOr(v.endedAt),
        data: v.form.data,
        unclear: v.form.failed,
        stuck: v.stuck.map((s) => s.sentence),
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
    example: { body: { note: "No longer needed." }, response: { number: "KEY-0042" } },
    run: async (actor, { path, body }) =>
      map(await act(actor, path("number"), { type: "withdraw", note: body.note }), (v) => ({
        number: v.number,
      })),
  }),
];
