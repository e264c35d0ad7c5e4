import { z } from "zod";
import { notTooDeep } from "./nesting";
import {
  idMistakes,
  idSentence,
  type ProcessDefinition,
  type Sample,
  type Start,
  type Step,
} from "@/core/route";
import { START_SCHEMAS } from "@/starts/schemas";
import { STEP_SCHEMAS } from "@/steps/schemas";
import { field, formData, stepForm } from "./form";
import { document } from "./document";
import { ladder, limit } from "./asking";
import { letter } from "./letter";
import { id, oneOf, short, template } from "./pieces";
import type { StepList } from "./stepList";

/**
 * The schema of a process file, `cobble-step/process@2`, assembled from those of the kinds. Types are core's; here
 * stands only what a stored or sent document must look like to be taken for one.
 */
export const steps: StepList = z.lazy(() => z.array(step).max(500));
const byKind = Object.fromEntries(
  Object.entries(STEP_SCHEMAS).map(([kind, schema]) => [kind, schema(steps)]),
);
export const step: z.ZodType<Step> = oneOf<Step>("kind", byKind).meta({ id: "Step" });
export const start: z.ZodType<Start> = oneOf<Start>("kind", START_SCHEMAS).meta({ id: "Start" });

/** Characters of a mail that a sample keeps. */
export const MOST_MAIL_TEXT = 20_000;

const access = z.record(z.string(), z.record(z.string(), z.enum(["edit", "see", "hide"])));
export const sample: z.ZodType<Sample> = z.strictObject({
  id,
  name: short,
  requester: z.string(),
  data: formData,
  mail: z
    .strictObject({
      sender: z.string().max(254),
      senderName: z.string().max(200),
      to: z.array(z.string().max(254)).max(100),
      subject: z.string().max(400),
      text: z.string().max(MOST_MAIL_TEXT),
      files: z
        .array(z.strictObject({ name: z.string().max(255), size: z.int().min(0), type: z.string().max(200) }))
        .max(50),
    })
    .optional(),
});

/** Properties of the process itself: those a `process.set` may change. */
export const settings = {
  name: short,
  purpose: z.string().max(2000),
  owners: z.array(z.string()).max(50),
  numbering: z.strictObject({ prefix: z.string().max(8), digits: z.int().min(3).max(8) }),
  title: template(400),
  calendar: z.string().max(60).optional(),
  mailbox: z.string().max(254).optional(),
  listed: z
    .strictObject({ under: z.string().min(1).max(60), place: z.int().min(0).max(999).optional() })
    .optional(),
  keepPersonalDays: z.int().min(0).max(36_500).optional(),
  keepFilesDays: z.int().min(0).max(36_500).optional(),
  mentions: z.literal(true).optional(),
  limit: limit.optional(),
};

export const processDefinition: z.ZodType<ProcessDefinition> = z
  .strictObject({
    format: z.literal("cobble-step/process@2"),
    key: id,
    ...settings,
    starts: z.array(start).max(20),
    fields: z.array(field).max(500),
    access,
    route: steps,
    forms: z.record(z.string(), stepForm).optional(),
    letters: z.array(letter).min(1).max(100).optional(),
    ladders: z.array(ladder).min(1).max(50).optional(),
    documents: z.array(document).min(1).max(50).optional(),
    samples: z.array(sample).max(200),
    procedure: z.literal(true).optional(),
  })
  .meta({ id: "ProcessDefinition" });

/** A definition that somebody sends: its ids tell things apart, too. What was stored before that was asked stays. */
export const sentDefinition: z.ZodType<ProcessDefinition> = notTooDeep(
  processDefinition.superRefine((d, ctx) => {
    for (const m of idMistakes(d)) ctx.addIssue({ code: "custom", path: [m.row], message: idSentence(m) });
  }),
);
