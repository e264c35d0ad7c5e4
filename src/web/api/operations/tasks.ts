import { z } from "zod";
import { formData } from "@/contracts";
import { act, desk, ok, taskView } from "@/services";
import { define, map, type Operation } from "../operation";
import { done, iso, isoOr, note, number, passedReasons, taskSummary, time, unclear } from "../schemas";

const onTask = "/requests/{number}/tasks/{task}";

export const TASKS: readonly Operation[] = [
  define({
    id: "listTasks",
    method: "GET",
    path: "/tasks",
    summary: "What waits for the caller, soonest limit first",
    status: 200,
    response: z.object({ tasks: z.array(taskSummary), total: z.int() }),
    example: {
      response: {
        total: 1,
        tasks: [
          {
            request: "KEY-0042",
            task: "t3",
            step: "Manager decides",
            title: "Cold room, Tower House",
            process: "store-key",
            requester: "lucia.penrose",
            requesterName: "Lucia Penrose",
            purpose: "decide",
            status: "open",
            opened: "2026-12-01T09:12:00.000Z",
            due: "2026-12-03T09:12:00.000Z",
          },
        ],
      },
    },
    run: async (actor) => {
      const { rows, total } = await desk(actor);
      return ok({
        total,
        tasks: rows.map((r) => ({
          request: r.number,
          task: r.task_id,
          step: r.step_name,
          ...(r.about ? { about: r.about } : {}),
          title: r.title,
          process: r.process_key,
          requester: r.requester_id,
          requesterName: r.requester_name,
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
      seen: z.int(),
      data: formData,
      unclear,
      access: z.record(z.string(), z.enum(["edit", "see", "hide"])),
      offers: z
        .record(z.string(), z.array(z.string()))
        .describe("By field or column, all that can be sent there; others are as their kind says"),
      answers: z.array(z.object({ id: z.string(), label: z.string(), needsNote: z.boolean() })),
    }),
    example: {
      response: {
        request: "KEY-0042",
        task: "t3",
        step: "Manager decides",
        due: null,
        seen: 6,
        data: { store: "4", each: null },
        unclear: { each: "“Each” cannot be worked out: Nothing can be divided by zero." },
        access: { store: "see" },
        offers: { room: ["12", "15"] },
        answers: [{ id: "approve", label: "Approve", needsNote: false }],
      },
    },
    run: async (actor, { path }) =>
      map(await taskView(actor, path("number"), path("task")), (v) => ({
        request: v.request.number,
        task: v.task.id,
        step: v.task.step,
        due: isoOr(v.task.due),
        seen: v.seen,
        data: v.form.data,
        unclear: v.form.failed,
        access: v.form.access,
        offers: Object.fromEntries(Object.entries(v.form.offers ?? {}).map(([id, of]) => [id, [...of]])),
        answers: v.answers.map((a) => ({ id: a.id, label: a.label, needsNote: a.note })),
      })),
  }),
  define({
    id: "answerTask",
    method: "POST",
    path: `${onTask}/answer`,
    summary: "Answers a task",
    status: 200,
    // What the task said under "seen": where values it showed have changed since, the answer is refused.
    body: z.object({
      answer: z.string().max(100),
      note,
      data: formData.default({}),
      seen: z.int().min(0),
      passed: passedReasons,
      anew: z
        .record(z.string().max(300), z.union([z.string().max(20_000), z.boolean(), z.null()]))
        .optional()
        .describe(
          "Where an answer reads values anew and they are others now it is refused as read-anew, with what they come to under changes. Sent again with these by path it counts, if they are still so.",
        ),
    }),
    response: done,
    example: {
      body: { answer: "approve", note: "Fine with me.", data: {}, seen: 6 },
      response: { number: "KEY-0042" },
    },
    run: async (actor, { path, body }) =>
      map(await act(actor, path("number"), { type: "answer", task: path("task"), ...body }), (v) => ({
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
    example: { response: { number: "KEY-0042" } },
    run: async (actor, { path }) =>
      map(await act(actor, path("number"), { type: "take", task: path("task") }), (v) => ({
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
    example: { response: { number: "KEY-0042" } },
    run: async (actor, { path }) =>
      map(await act(actor, path("number"), { type: "put back", task: path("task") }), (v) => ({
        number: v.number,
      })),
  }),
  define({
    id: "handOverTask",
    method: "POST",
    path: `${onTask}/hand-over`,
    summary: "Hands a task over to a colleague",
    status: 200,
    body: z.object({
      to: z.string().max(100).describe("Person id"),
      note,
      back: z
        .boolean()
        .optional()
        .describe("They only say what they would answer; then it is the caller's again, who answers"),
    }),
    response: done,
    example: { body: { to: "dermot.vane", note: "You know the room." }, response: { number: "KEY-0042" } },
    run: async (actor, { path, body }) =>
      map(await act(actor, path("number"), { type: "hand over", task: path("task"), ...body }), (v) => ({
        number: v.number,
      })),
  }),
  define({
    id: "askAtTask",
    method: "POST",
    path: `${onTask}/ask`,
    summary:
      "Asks whoever made the request, or a colleague, something beside a task, which stays where it is",
    status: 200,
    body: z.object({
      to: z.string().max(100).nullable().describe("Person id; null for whoever made the request"),
      note: z.string().max(4000).describe("What is asked"),
    }),
    response: done,
    example: { body: { to: null, note: "Which of the two rooms?" }, response: { number: "KEY-0042" } },
    run: async (actor, { path, body }) =>
      map(await act(actor, path("number"), { type: "ask", task: path("task"), ...body }), (v) => ({
        number: v.number,
      })),
  }),
  define({
    id: "reassignTask",
    method: "POST",
    path: `${onTask}/reassign`,
    summary: "Gives anybody's open task to somebody else, for owners of the process",
    status: 200,
    body: z.object({
      to: z.string().max(100).describe("Person id"),
      note: z.string().max(2000).describe("Why"),
    }),
    response: done,
    example: {
      body: { to: "dermot.vane", note: "Left at the end of May." },
      response: { number: "KEY-0042" },
    },
    run: async (actor, { path, body }) =>
      map(await act(actor, path("number"), { type: "reassign", task: path("task"), ...body }), (v) => ({
        number: v.number,
      })),
  }),
];
