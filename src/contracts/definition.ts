import { z } from "zod";
import type { Length } from "@/core/calendar";
import { FIELD_KINDS, type Field, type RegisterShape } from "@/core/form";
import type { Edit, Limit, ProcessDefinition, Rule, Step } from "@/core/process";

/**
 * The schema of a process file, `cobble-step/process@1`. Steps, rules and fields are the types of core;
 * here stands only what a stored or sent document must look like to be taken for one.
 */
const id = z
  .string()
  .regex(/^[a-z0-9][a-z0-9._-]{0,59}$/, "An id has small letters, digits, dots and dashes, at most 60.");
const formula = z.string().max(4000);
const short = z.string().max(200);

export const length: z.ZodType<Length> = z
  .strictObject({
    amount: z.number().min(0).max(10_000),
    unit: z.enum(["working days", "working hours", "days", "hours", "minutes"]),
  })
  .meta({ id: "Length" });

export const rule: z.ZodType<Rule> = z
  .discriminatedUnion("by", [
    z.strictObject({ by: z.literal("requester") }),
    z.strictObject({ by: z.literal("person"), person: z.string() }),
    z.strictObject({ by: z.literal("group"), group: z.string() }),
    z.strictObject({ by: z.literal("duty"), duty: short, place: formula.optional() }),
    z.strictObject({
      by: z.literal("manager"),
      of: formula.optional(),
      levels: z.int().min(1).max(20).optional(),
    }),
    z.strictObject({ by: z.literal("formula"), formula }),
  ])
  .meta({ id: "Rule" });

const assignment = z.strictObject({
  rule,
  how: z.enum(["one", "first", "all", "share"]),
  share: z.int().min(1).max(100).optional(),
  fallback: rule.optional(),
  requesterToo: z.boolean().optional(),
});

const rungAction = z.discriminatedUnion("do", [
  z.strictObject({ do: z.literal("remind") }),
  z.strictObject({ do: z.literal("tell"), who: rule, text: z.string().max(4000) }),
  z.strictObject({ do: z.literal("add"), who: rule }),
  z.strictObject({ do: z.literal("hand over"), to: rule }),
  z.strictObject({ do: z.literal("answer"), answer: id, note: short }),
]);

const limit: z.ZodType<Limit> = z
  .strictObject({
    rules: z
      .array(z.strictObject({ when: formula, length }))
      .max(20)
      .optional(),
    otherwise: length,
    rungs: z
      .array(
        z.strictObject({
          id,
          when: z.enum(["before", "at", "after"]),
          length: length.optional(),
          every: length.optional(),
          times: z.int().min(1).max(50).optional(),
          action: rungAction,
        }),
      )
      .max(20),
  })
  .meta({ id: "Limit" });

const tone = z.enum(["agree", "refuse", "plain"]);
const base = { id, name: short };
const steps: z.ZodType<Step[]> = z.lazy(() => z.array(step).max(500));

export const step: z.ZodType<Step> = z
  .discriminatedUnion("kind", [
    z.strictObject({
      ...base,
      kind: z.literal("decide"),
      who: assignment,
      limit: limit.optional(),
      answers: z
        .array(
          z.strictObject({
            id,
            label: short,
            tone,
            note: z.literal("must").optional(),
            returns: z.literal(true).optional(),
            steps,
          }),
        )
        .max(20),
    }),
    z.strictObject({
      ...base,
      kind: z.literal("complete"),
      who: assignment,
      button: short,
      limit: limit.optional(),
    }),
    z.strictObject({
      ...base,
      kind: z.literal("choose"),
      ways: z.array(z.strictObject({ id, name: short, when: formula.optional(), steps })).max(50),
    }),
    z.strictObject({
      ...base,
      kind: z.literal("together"),
      branches: z.array(z.strictObject({ id, name: short, when: formula.optional(), steps })).max(50),
    }),
    z.strictObject({
      ...base,
      kind: z.literal("write"),
      op: z.enum(["add", "change", "remove"]),
      register: z.string(),
      record: formula.optional(),
      each: z.string().optional(),
      values: z.array(z.strictObject({ column: z.string(), value: formula })).max(100),
      must: formula.optional(),
      otherwise: z.enum(["stop", "leave"]).optional(),
      into: id.optional(),
    }),
    z.strictObject({
      ...base,
      kind: z.literal("work out"),
      set: z.array(z.strictObject({ field: id, value: formula })).max(100),
    }),
    z.strictObject({
      ...base,
      kind: z.literal("tell"),
      who: rule,
      subject: z.string().max(400),
      text: z.string().max(10_000),
    }),
    z.strictObject({ ...base, kind: z.literal("jump"), to: z.string() }),
    z.strictObject({ ...base, kind: z.literal("finish"), result: short, tone }),
  ])
  .meta({ id: "Step" });

const fieldBase = {
  id,
  name: z.string().max(60),
  kind: z.enum(FIELD_KINDS),
  help: z.string().max(1000).optional(),
  needed: formula.optional(),
  shown: formula.optional(),
  worked: formula.optional(),
  checks: z
    .array(z.strictObject({ must: formula, say: z.string().max(500) }))
    .max(20)
    .optional(),
  min: z.string().max(40).optional(),
  max: z.string().max(40).optional(),
  options: z.array(short).max(500).optional(),
  register: z.string().max(60).optional(),
};
export const field: z.ZodType<Field> = z
  .lazy(() => z.strictObject({ ...fieldBase, fields: z.array(field).max(500).optional() }))
  .meta({ id: "Field" });

const scalar = z.union([z.string().max(20_000), z.boolean(), z.null()]);
const row = z.intersection(z.object({ "#": z.string().max(60) }), z.record(z.string().max(60), scalar));
/** Values of a form by field id: text, decimal text, ISO dates, ids; lines are lists of rows with "#". */
export const formData = z
  .record(z.string().max(60), z.union([scalar, z.array(row).max(5000)]))
  .meta({ id: "FormData" });

const access = z.record(z.string(), z.record(z.string(), z.enum(["edit", "see", "hide"])));
const audience = z.discriminatedUnion("by", [
  z.strictObject({ by: z.literal("everybody") }),
  z.strictObject({ by: z.literal("group"), group: z.string() }),
  z.strictObject({ by: z.literal("department"), department: z.string() }),
]);
const sample = z.strictObject({ id, name: short, requester: z.string(), data: formData });

const settings = {
  name: short,
  purpose: z.string().max(2000),
  owners: z.array(z.string()).max(50),
  numbering: z.strictObject({ prefix: z.string().max(8), digits: z.int().min(3).max(8) }),
  title: z.string().max(400),
  starts: z.array(z.strictObject({ kind: z.literal("form"), who: audience })).max(20),
  calendar: z.string().max(60).optional(),
};

export const processDefinition: z.ZodType<ProcessDefinition> = z
  .strictObject({
    format: z.literal("cobble-step/process@1"),
    key: id,
    ...settings,
    fields: z.array(field).max(500),
    access,
    route: steps,
    samples: z.array(sample).max(200),
  })
  .meta({ id: "ProcessDefinition" });

export const registerShape: z.ZodType<RegisterShape> = z
  .strictObject({
    format: z.literal("cobble-step/register@1"),
    key: z.string().regex(/^[a-z][a-z0-9_]{0,39}$/),
    name: short,
    one: short,
    purpose: z.string().max(1000),
    columns: z
      .array(
        z.strictObject({
          id: z.string().regex(/^[a-z][a-z0-9_]{0,39}$/),
          name: z.string().max(60),
          kind: z.enum([
            "text",
            "long text",
            "number",
            "money",
            "date",
            "yes or no",
            "choice",
            "person",
            "look-up",
          ]),
          options: z.array(short).max(500).optional(),
          register: z.string().optional(),
          needed: z.boolean().optional(),
        }),
      )
      .min(1)
      .max(200),
    title: z.array(z.string()).min(1).max(5),
    key_column: z.string().optional(),
  })
  .meta({ id: "RegisterShape" });

const listRef = z.strictObject({ owner: z.string().nullable(), list: z.string().nullable() });
const index = z.int().min(0).max(1000);
const patch = z
  .partialRecord(
    z.enum(["kind", "help", "needed", "shown", "worked", "checks", "min", "max", "options", "register"]),
    z.unknown(),
  )
  .superRefine((p, ctx) => {
    for (const [k, v] of Object.entries(p)) {
      if (v === null) continue;
      const ok = (fieldBase as Record<string, z.ZodType>)[k]!.safeParse(v);
      if (!ok.success)
        ctx.addIssue({ code: "custom", path: [k], message: ok.error.issues[0]?.message ?? "is not right" });
    }
  });

/** One edit of a draft, as the Workshop and the API send it. */
export const edit: z.ZodType<Edit> = z
  .lazy(() =>
    z.discriminatedUnion("op", [
      z.strictObject({ op: z.literal("process.set"), patch: z.strictObject(settings).partial() }),
      z.strictObject({ op: z.literal("field.add"), parent: z.string().nullable(), index, field }),
      z.strictObject({ op: z.literal("field.remove"), id: z.string() }),
      z.strictObject({ op: z.literal("field.move"), id: z.string(), parent: z.string().nullable(), index }),
      z.strictObject({
        op: z.literal("field.set"),
        id: z.string(),
        patch: patch as unknown as z.ZodType<Extract<Edit, { op: "field.set" }>["patch"]>,
      }),
      z.strictObject({ op: z.literal("field.rename"), id: z.string(), name: z.string().max(200) }),
      z.strictObject({
        op: z.literal("texts.restore"),
        title: settings.title,
        fields: z.array(field).max(500),
        route: steps,
      }),
      z.strictObject({
        op: z.literal("access.set"),
        step: z.string(),
        field: z.string(),
        access: z.enum(["edit", "see", "hide"]).nullable(),
      }),
      z.strictObject({ op: z.literal("step.add"), to: listRef, index, step }),
      z.strictObject({ op: z.literal("step.remove"), id: z.string() }),
      z.strictObject({ op: z.literal("step.move"), id: z.string(), to: listRef, index }),
      z.strictObject({ op: z.literal("step.put"), step }),
      z.strictObject({ op: z.literal("sample.put"), sample }),
      z.strictObject({ op: z.literal("sample.remove"), id: z.string() }),
      z.strictObject({ op: z.literal("batch"), edits: z.array(edit).max(500) }),
    ]),
  )
  .meta({ id: "Edit" }) as z.ZodType<Edit>;
