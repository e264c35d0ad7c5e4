import { z } from "zod";
import { MAX_REASON } from "@/core/form";
import { MOST_COUNTED, MOST_FOUND } from "@/services";

/** What the operations of the API have in common. Those with an id stand among the document's schemas. */
export const time = z.iso.datetime().describe("UTC, RFC 3339");
export const iso = (ms: number): string => new Date(ms).toISOString();
export const isoOr = (ms: number | null): string | null => (ms === null ? null : iso(ms));
export const number = z.string().max(40).describe("Request number, for example LOAN-0042");
export const page = {
  offset: z.coerce
    .number()
    .int()
    .min(0)
    .max(MOST_COUNTED - 1)
    .default(0),
  limit: z.coerce.number().int().min(1).max(500).default(50),
};
/** Why checks that may be passed are gone on past: by what `pass` of a problem says. */
export const passedReasons = z
  .record(z.string().max(300), z.string().max(MAX_REASON))
  .default({})
  .describe("Why the caller goes on past checks that allow it, by what is under pass of a problem");
export const note = z.string().max(4000).default("");
export const done = z.object({ number }).meta({ id: "Done" });

export const requestSummary = z
  .object({
    number,
    title: z.string(),
    process: z.string(),
    status: z.string(),
    result: z.string().nullable(),
    started: time,
    ended: time.nullable(),
    waitingFor: z.array(z.string()).describe("Person ids"),
  })
  .meta({ id: "RequestSummary" });
/** Who asked; an address only of somebody who does not work here. */
export const asker = z
  .object({
    kind: z.enum(["person", "service", "outside", "process"]),
    name: z.string(),
    email: z.string().nullable(),
  })
  .meta({ id: "Asker" });
export const taskSummary = z
  .object({
    request: number,
    task: z.string(),
    step: z.string(),
    about: z.string().optional().describe("The round it is of, where it is one of several"),
    title: z.string(),
    process: z.string(),
    requester: z.string().nullable().describe("Whose own it is: an account's id"),
    requesterName: z.string(),
    purpose: z.enum(["decide", "complete", "changes", "question", "advice"]),
    status: z.string(),
    opened: time,
    due: time.nullable(),
  })
  .meta({ id: "TaskSummary" });
export const record = z
  .object({ id: z.string() })
  .catchall(z.union([z.string(), z.boolean(), z.null()]))
  .meta({ id: "Record", description: "Column values: decimals as text, dates ISO, links and people as ids" });
export const problem = z
  .object({
    severity: z.enum(["error", "warning"]),
    code: z.string(),
    where: z.object({ kind: z.string(), id: z.string(), place: z.string().optional() }),
    message: z.string(),
  })
  .meta({ id: "DraftProblem" });

/** By path why a worked-out value is not there although it is not empty: `total`, or `lines/1/price` for a cell. */
export const unclear = z.record(z.string(), z.string());

/** How many there are of a list. */
export const total = z
  .int()
  .describe(
    `Counted up to ${MOST_COUNTED}, and where something is searched for up to ${MOST_FOUND}; one more than that means that there are more.`,
  );
