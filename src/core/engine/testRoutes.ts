import fc from "fast-check";
import type { Field } from "../form";
import { portsOf } from "../kinds";
import type { Limit, ProcessDefinition, Step, StepOf } from "../route";

/** A random route as a tree of plain choices; ids are given when it is built. */
export type Shape =
  | {
      s: "decide";
      who: number;
      how: number;
      extra: Shape[];
      refuse: "finish" | "on" | "jump";
      limit: boolean;
      returns: boolean;
    }
  | { s: "complete"; who: number; beside: number }
  | { s: "choose"; first: Shape[]; rest: Shape[] }
  | { s: "together"; branches: Shape[][]; conditional: boolean; needs: number; until: number; runOn: boolean }
  | { s: "each"; over: "lines" | "list" | "times"; pace: number; until: boolean; more: number; body: Shape[] }
  | { s: "set" }
  | { s: "wait"; hours: number; until: number; late: Shape[] | null }
  | { s: "hand to"; body: Shape[] }
  | { s: "part"; body: Shape[] }
  | { s: "rows"; how: number }
  | { s: "start request"; waits: boolean }
  | { s: "tell" }
  /** A mail, with what is done when it comes back. */
  | { s: "mail"; back: Shape[] }
  | { s: "write" }
  | { s: "finish" };

export const shape: fc.Arbitrary<Shape> = fc.letrec<{ shape: Shape; list: Shape[] }>((tie) => ({
  list: fc.array(tie("shape"), { maxLength: 3, depthIdentifier: "route" }),
  shape: fc.oneof(
    { maxDepth: 3, depthIdentifier: "route" },
    {
      weight: 4,
      arbitrary: fc.record({ s: fc.constant("complete" as const), who: fc.nat(5), beside: fc.nat(4) }),
    },
    { weight: 2, arbitrary: fc.constantFrom<Shape>({ s: "set" }, { s: "tell" }, { s: "write" }) },
    {
      weight: 6,
      arbitrary: fc.record({
        s: fc.constant("decide" as const),
        who: fc.nat(5),
        how: fc.nat(3),
        extra: tie("list"),
        refuse: fc.constantFrom("finish" as const, "on" as const, "jump" as const),
        limit: fc.boolean(),
        returns: fc.boolean(),
      }),
    },
    {
      weight: 2,
      arbitrary: fc.record({ s: fc.constant("choose" as const), first: tie("list"), rest: tie("list") }),
    },
    {
      weight: 4,
      arbitrary: fc.record({
        s: fc.constant("together" as const),
        branches: fc.array(tie("list"), { minLength: 1, maxLength: 3 }),
        conditional: fc.boolean(),
        needs: fc.nat(4),
        until: fc.nat(5),
        runOn: fc.boolean(),
      }),
    },
    {
      weight: 3,
      arbitrary: fc.record({
        s: fc.constant("each" as const),
        over: fc.constantFrom("lines" as const, "list" as const, "times" as const),
        pace: fc.nat(3),
        until: fc.boolean(),
        more: fc.nat(3),
        body: tie("list"),
      }),
    },
    {
      weight: 2,
      arbitrary: fc.record({
        s: fc.constant("wait" as const),
        hours: fc.nat(5),
        until: fc.nat(2),
        late: fc.option(tie("list")),
      }),
    },
    { weight: 6, arbitrary: fc.record({ s: fc.constant("hand to" as const), body: tie("list") }) },
    { weight: 1, arbitrary: fc.record({ s: fc.constant("part" as const), body: tie("list") }) },
    { weight: 1, arbitrary: fc.record({ s: fc.constant("rows" as const), how: fc.nat(3) }) },
    {
      weight: 1,
      arbitrary: fc.record({ s: fc.constant("start request" as const), waits: fc.boolean() }),
    },
    { weight: 1, arbitrary: fc.constant<Shape>({ s: "finish" }) },
  ) as fc.Arbitrary<Shape>,
})).shape;

/** Procedures by key, made on the way. */
export type Made = Record<string, ProcessDefinition[]>;

/** The limit of every part: nothing of what is gone through hangs on it. */
const OF_PART: Limit = {
  otherwise: { amount: 5, unit: "hours" },
  rungs: [{ id: "late", when: "at", action: { do: "remind" } }],
};

export function build(shapes: Shape[], made: Made = {}): ProcessDefinition {
  let n = 0;
  const id = () => `s${++n}`;
  const rules = [
    { by: "manager" as const },
    { by: "group" as const, group: "registry" },
    { by: "person" as const, person: "carmel" },
    { by: "duty" as const, duty: "Guard" },
    { by: "person" as const, person: "una" },
    { by: "duty" as const, duty: "Nobody" },
  ];
  const hows = ["one", "first", "all", "share"] as const;
  const who = (k: number, how: number) => ({
    rule: rules[k]!,
    how: hows[how]!,
    fallback: { by: "duty" as const, duty: "Director" },
  });
  /** Where a jump back may lead: the first step of the same list, so that it never crosses branches. */
  const list = (shapes: Shape[]): Step[] => {
    const out: Step[] = [];
    let target: string | null = null;
    for (const x of shapes) {
      const step = one(x, target);
      target ??= step.id;
      out.push(step);
    }
    return out;
  };
  const one = (x: Shape, back: string | null): Step => {
    const base = { id: id(), name: `Step ${n}` };
    switch (x.s) {
      case "decide": {
        const refuse: Step[] = [];
        if (x.refuse === "finish")
          refuse.push({ id: id(), name: "End", kind: "finish", result: "no", tone: "refuse" });
        if (x.refuse === "jump" && back) refuse.push({ id: id(), name: "Back", kind: "jump", to: back });
        const answers: StepOf<"decide">["answers"] = [
          { id: "yes", label: "yes", tone: "agree", steps: list(x.extra) },
          { id: "no", label: "no", tone: "refuse", steps: refuse },
        ];
        if (x.returns) answers.push({ id: "back", label: "back", tone: "plain", returns: true, steps: [] });
        return {
          ...base,
          kind: "decide",
          who: who(x.who, x.how),
          answers,
          ...(x.limit
            ? {
                limit: {
                  otherwise: { amount: 2, unit: "working days" as const },
                  rungs: [
                    {
                      id: "a",
                      when: "before" as const,
                      length: { amount: 2, unit: "working hours" as const },
                      action: { do: "remind" as const },
                    },
                    {
                      id: "b",
                      when: "at" as const,
                      action: { do: "hand over" as const, to: { by: "manager" as const } },
                    },
                    {
                      id: "d",
                      when: "at" as const,
                      action: { do: "add" as const, who: { by: "duty" as const, duty: "Director" } },
                    },
                    {
                      id: "c",
                      when: "after" as const,
                      length: { amount: 1, unit: "working days" as const },
                      action: { do: "answer" as const, answer: "yes", note: "" },
                    },
                  ],
                },
              }
            : {}),
        };
      }
      case "complete":
        return {
          ...base,
          kind: "complete",
          who: who(x.who, 0),
          button: "Done",
          // A column in which only some can be picked; of what cannot be worked out nobody is asked.
          ...(x.beside >= 3
            ? {
                offers: [
                  {
                    field: "who",
                    of:
                      x.beside === 3 ? "[Requester]" : "if Total > 900 then manager of(Requester) else null",
                  },
                ],
              }
            : {}),
          ...(x.beside < 2 ? { beside: (["called off", "stays"] as const)[x.beside]! } : {}),
        };
      case "choose":
        return {
          ...base,
          kind: "choose",
          ways: [
            { id: "w1", name: "small", when: "Total < 500", steps: list(x.first) },
            { id: "w2", name: "other", steps: list(x.rest) },
          ],
        };
      case "together":
        return {
          ...base,
          kind: "together",
          ...(x.needs > 0 && x.needs <= x.branches.length ? { needs: x.needs } : {}),
          ...(x.until === 0 ? { until: "Total > 500" } : {}),
          ...(x.runOn ? { othersRunOn: true as const } : {}),
          branches: x.branches.map((b, i) => ({
            id: `b${i}`,
            name: `B${i}`,
            ...(x.conditional && i > 0 ? { when: "Total > 500" } : {}),
            steps: list(b),
          })),
        };
      case "each": {
        const item = `Thing ${base.id}`;
        const steps = list(x.body);
        const decided = steps.find((s) => s.kind === "decide");
        const said = decided ? `${decided.name}.answer` : "null";
        const over = {
          lines: { lines: "rows" },
          list: { list: "for i in [1, 2, 3] return {What: string(i), Who: null}" },
          times: { times: "2" },
        }[x.over];
        const things = x.over !== "times";
        return {
          ...base,
          kind: "for each",
          over,
          item,
          ...(things && x.more === 1 ? { only: `${item}.What != "2"` } : {}),
          ...(things && x.more === 2 ? { gather: { by: `${item}.What`, as: `Same ${base.id}` } } : {}),
          ...(x.pace > 0 ? { atOnce: x.pace } : {}),
          ...(x.pace === 2 ? { stuckHolds: true as const } : {}),
          ...(x.until ? { until: `${said} = "no"` } : {}),
          collect: `{n: ${item} number, said: ${said}}`,
          bodies: [{ id: "body", steps }],
        };
      }
      case "wait":
        return {
          ...base,
          kind: "wait",
          for: [
            ...(x.until > 0 ? [{ id: "u", holds: 'Note = "x"' }] : []),
            ...(x.until < 2 ? [{ id: "a", length: { amount: x.hours, unit: "hours" as const } }] : []),
          ],
          ways: x.late && x.until === 1 ? [{ id: `${base.id}-late`, steps: list(x.late) }] : [],
        };
      case "hand to": {
        const key = `p${Object.keys(made).length}`;
        made[key] = [];
        const inner = build(x.body, made);
        const [total, note, ...others] = inner.fields;
        const fields: Field[] = [{ ...total!, hand: "in" }, { ...note!, hand: "out" }, ...others];
        made[key].push({ ...inner, key, procedure: true, starts: [], fields });
        return {
          ...base,
          kind: "hand to",
          procedure: key,
          ...portsOf(fields),
          values: [{ port: "total", value: "Total" }],
        } as Step;
      }
      case "part":
        return { ...base, kind: "part", bodies: [{ id: "body", steps: list(x.body) }], limit: OF_PART };
      case "rows": {
        const of = { id: "r", lines: "rows" };
        const deeds = [
          { ...of, do: "remove" as const, where: 'What = "1"' },
          { ...of, do: "add" as const, values: [{ column: "what", value: "string(count(Rows))" }] },
          { ...of, do: "sort" as const, by: "What", descending: true as const },
          { ...of, do: "set" as const, column: "what", value: "string(Total)", where: "Who = null" },
        ];
        return { ...base, kind: "work out", set: [], rows: [deeds[x.how]!] };
      }
      case "start request":
        return {
          ...base,
          kind: "start request",
          process: "other",
          takes: [{ id: "a", name: "A", kind: "money" }],
          gives: [{ id: "b", name: "B", kind: "text" }],
          values: [{ port: "a", value: "Total" }],
          waits: x.waits,
          endsWith: true,
        };
      case "set":
        return { ...base, kind: "work out", set: [{ field: "note", value: '"x"' }] };
      case "mail":
        return {
          ...base,
          kind: "tell",
          who: { by: "requester" },
          subject: "Hello {Request.number}",
          text: "",
          mail: {},
          ways: [{ id: `${base.id}-back`, steps: list(x.back) }],
        };
      case "tell":
        return {
          ...base,
          kind: "tell",
          who: { by: "requester" },
          subject: "Hello {Request.number}",
          text: "",
          ways: [],
        };
      case "write":
        return { ...base, kind: "write", op: "change", register: "none", record: "Note", values: [] };
      case "finish":
        return { ...base, kind: "finish", result: "done", tone: "plain" };
    }
  };
  const route = list(shapes);
  const access = Object.fromEntries(
    Array.from({ length: n }, (_, i) => [
      `s${i + 1}`,
      { rows: "edit" as const, what: "edit" as const, note: "edit" as const },
    ]),
  );
  return {
    format: "cobble-step/process@2",
    key: "random",
    name: "Random",
    purpose: "",
    owners: ["una"],
    numbering: { prefix: "RND", digits: 4 },
    title: "",
    starts: [{ id: "form", kind: "form", who: { by: "everybody" } }],
    // Whoever is asked may take lines away.
    access,
    samples: [],
    route,
    fields: [
      { id: "total", name: "Total", kind: "money" },
      { id: "note", name: "Note", kind: "text" },
      {
        id: "rows",
        name: "Rows",
        kind: "lines",
        fields: [
          { id: "what", name: "What", kind: "text" },
          { id: "who", name: "Who", kind: "person" },
        ],
      },
    ],
  };
}
