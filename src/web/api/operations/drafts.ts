import { z } from "zod";
import { edit, processDefinition } from "@/contracts";
import type { ProcessDefinition } from "@/core/route";
import { sentProcess } from "@/formats";
import { draftProblems, draftView, editDraft, releaseDraft } from "@/services";
import { define, map, type Operation } from "../operation";
import { problem } from "../schemas";

const EXAMPLE: ProcessDefinition = {
  format: "cobble-step/process@2",
  key: "parking-permit",
  name: "Parking permit",
  purpose: "Who may park where.",
  owners: ["tobias.marrin"],
  numbering: { prefix: "PARK", digits: 4 },
  title: "{Requester.name}",
  starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
  fields: [{ id: "car", name: "Car", kind: "text", needed: "true" }],
  access: {},
  route: [{ id: "end", name: "Finish", kind: "finish", result: "given", tone: "agree" }],
  samples: [],
};

export const DRAFTS: readonly Operation[] = [
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
    example: { response: { version: 12, definition: EXAMPLE } },
    run: async (actor, { path }) =>
      map(await draftView(actor, path("process")), (v) => ({
        version: v.version,
        definition: v.definition,
      })),
  }),
  define({
    id: "putDraft",
    method: "PUT",
    path: "/processes/{process}/draft",
    summary:
      "Replaces the draft, if nobody changed it since that version; older formats are brought up to date",
    status: 200,
    body: z.object({ version: z.int(), definition: processDefinition }),
    lift: (body) =>
      typeof body === "object" && body !== null && "definition" in body
        ? { ...body, definition: sentProcess(body.definition) }
        : body,
    response: z.object({ version: z.int() }),
    example: { body: { version: 12, definition: EXAMPLE }, response: { version: 13 } },
    run: async (actor, { path, body }) =>
      map(
        await editDraft(actor, path("process"), body.version, [
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
    example: {
      body: { version: 12, edits: [{ op: "field.rename", id: "purpose", name: "Why you need it" }] },
      response: { version: 13 },
    },
    run: async (actor, { path, body }) =>
      map(await editDraft(actor, path("process"), body.version, body.edits), (v) => ({
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
    example: {
      response: {
        problems: [
          {
            severity: "error",
            code: "unknown-name",
            where: { kind: "field", id: "total", place: "worked" },
            message: 'Nothing here is called "Totl".',
          },
        ],
      },
    },
    run: async (actor, { path }) =>
      map(await draftProblems(actor, path("process")), (v) => ({
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
    example: { body: { version: "1.1.0", note: "Says how many days." }, response: { version: "1.1.0" } },
    run: async (actor, { path, body }) =>
      map(await releaseDraft(actor, path("process"), body.version, body.note), (v) => ({
        version: v.version,
      })),
  }),
];
