import { z } from "zod";
import type { Edit, HeldList } from "@/core/route";
import { ladder, rung, rungPatch } from "./asking";
import { processDefinition, sample, settings, start, step, steps } from "./definition";
import { field, fieldProperties, stepForm } from "./form";
import { document } from "./document";
import { letter } from "./letter";
import { id, short } from "./pieces";

// Who owns a process is no part of what a draft may change: owners propose and agree.
const { owners: _owners, ...changeable } = settings;

const ref = z.string().max(120);
const after = ref.nullable().describe("The neighbour it stands behind; null for the first place");
const listRef = z.strictObject({ owner: ref.nullable(), list: ref.nullable() });

/** Some of these properties; null takes one away. */
const nullable = <P extends Record<string, z.ZodType>>(properties: P) =>
  z.strictObject(
    Object.fromEntries(Object.entries(properties).map(([k, schema]) => [k, schema.nullable().optional()])),
  );
/** What is changed of a step is held against its kind's schema once it has been applied. */
const patch = z.record(z.string().max(60), z.unknown());
const list = z.object({ id, steps }).catchall(z.unknown()) as unknown as z.ZodType<HeldList>;

/** One edit of a draft, as the Workshop and the API send it. */
export const edit: z.ZodType<Edit> = z
  .lazy(() =>
    z.discriminatedUnion("op", [
      z.strictObject({ op: z.literal("process.set"), patch: nullable(changeable) }),
      z.strictObject({ op: z.literal("process.replace"), definition: processDefinition }),
      z.strictObject({ op: z.literal("start.put"), after, start }),
      z.strictObject({ op: z.literal("start.remove"), id: ref }),
      z.strictObject({ op: z.literal("start.move"), id: ref, after }),
      z.strictObject({ op: z.literal("field.add"), parent: ref.nullable(), after, field }),
      z.strictObject({ op: z.literal("field.remove"), id: ref }),
      z.strictObject({ op: z.literal("field.move"), id: ref, parent: ref.nullable(), after }),
      z.strictObject({ op: z.literal("field.set"), id: ref, patch: nullable(fieldProperties) }),
      z.strictObject({ op: z.literal("field.rename"), id: ref, name: short }),
      z.strictObject({
        op: z.literal("columns.rename"),
        register: ref,
        columns: z.array(z.strictObject({ id: ref, from: short, to: short })).max(200),
      }),
      z.strictObject({
        op: z.literal("texts.restore"),
        title: settings.title,
        starts: z.array(start).max(20),
        fields: z.array(field).max(500),
        route: steps,
        letters: z.array(letter).max(100).optional(),
        ladders: z.array(ladder).max(50).optional(),
        documents: z.array(document).max(50).optional(),
      }),
      z.strictObject({ op: z.literal("letter.put"), after, letter }),
      z.strictObject({ op: z.literal("letter.remove"), id: ref }),
      z.strictObject({ op: z.literal("letter.move"), id: ref, after }),
      z.strictObject({ op: z.literal("ladder.put"), after, ladder }),
      z.strictObject({ op: z.literal("ladder.remove"), id: ref }),
      z.strictObject({ op: z.literal("document.put"), after, document }),
      z.strictObject({ op: z.literal("document.remove"), id: ref }),
      z.strictObject({ op: z.literal("document.move"), id: ref, after }),
      z.strictObject({
        op: z.literal("access.set"),
        step: ref,
        field: ref,
        access: z.enum(["edit", "see", "hide"]).nullable(),
      }),
      z.strictObject({ op: z.literal("form.set"), step: ref, patch: nullable(stepForm.shape) }),
      z.strictObject({ op: z.literal("step.add"), to: listRef, after, step }),
      z.strictObject({ op: z.literal("step.remove"), id: ref }),
      z.strictObject({ op: z.literal("step.move"), id: ref, to: listRef, after }),
      z.strictObject({ op: z.literal("step.set"), id: ref, patch }),
      z.strictObject({ op: z.literal("list.add"), step: ref, after, list }),
      z.strictObject({ op: z.literal("list.remove"), step: ref, list: ref }),
      z.strictObject({ op: z.literal("list.move"), step: ref, list: ref, after }),
      z.strictObject({ op: z.literal("list.set"), step: ref, list: ref, patch }),
      z.strictObject({ op: z.literal("rung.add"), step: ref, after, rung }),
      z.strictObject({ op: z.literal("rung.remove"), step: ref, rung: ref }),
      z.strictObject({ op: z.literal("rung.set"), step: ref, rung: ref, patch: nullable(rungPatch.shape) }),
      z.strictObject({ op: z.literal("sample.put"), after, sample }),
      z.strictObject({ op: z.literal("sample.remove"), id: ref }),
      z.strictObject({ op: z.literal("batch"), edits: z.array(edit).max(500) }),
    ]),
  )
  .meta({ id: "Edit" }) as z.ZodType<Edit>;
