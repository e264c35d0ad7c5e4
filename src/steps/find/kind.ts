import { PEOPLE, PEOPLE_SORTED } from "@/core/form";
import { listOf, nameMistake, YESNO } from "@/core/expression";
import type { StepBehaviour, StepProblems } from "@/core/kinds";
import type { StepOf } from "@/core/route";

/** What a new one takes. */
const USUALLY = 100;
/** How many are named on the trail. */
const NAMED = 4;

/** Reads records of a register. */
export const find: StepBehaviour<"find"> = {
  verb: "Find",
  says: "read records of a register",
  blank: (id) => ({
    id,
    name: "Found",
    kind: "find",
    register: "",
    take: "some",
    most: USUALLY,
    nothing: "on",
    ways: [],
  }),
  lists: {
    in: "ways",
    one: "way when nothing is found",
    name: () => "nothing found",
    back: () => false,
    blank: (id) => ({ id, steps: [] }),
    at: () => 0,
    most: 1,
    sideBySide: false,
    passedBy: true,
  },
  asks: null,
  formulas: (s, walk) =>
    s.where === undefined
      ? s
      : {
          ...s,
          where: walk.formula(
            {
              place: "where",
              says: "which records are meant",
              wants: YESNO,
              reads: { columnsOf: s.register },
            },
            s.where,
          ),
        },
  steps: (s) => s,
  sets: () => [],
  searches: (s) => ({
    register: s.register,
    columns: (s.sort ?? []).map((x) => x.column),
    all: s.columns === "all" ? null : { op: "step.set", id: s.id, patch: { columns: "all" } },
  }),
  gives: (s, { record }) => (s.take === "some" ? listOf(record(s.register)) : record(s.register)),
  problems,
  exit: () => null,
  goesOn: () => true,
  mayBeNothing: (s) => s.ways.length === 0 && s.nothing === "on",
  passes: true,
  enter: (_, s) => ({
    go: "waits",
    work: {
      kind: "find",
      register: s.register,
      where: s.where?.trim() ? s.where : null,
      sort: s.sort ?? [],
      backwards: s.take === "last",
      most: s.take === "some" ? (s.most ?? USUALLY) : 1,
    },
  }),
  done(turn, s, { ids, sample }) {
    // Also nothing is kept: what an earlier visit found must not be taken for what this one did.
    turn.keep({ register: s.register, ids, many: s.take === "some" });
    if (ids.length > 0 || sample) return { go: "on" };
    if (s.ways[0]) return { go: "into", list: s.ways[0].id };
    if (s.nothing === "on") return { go: "on" };
    return { go: "stuck", reason: { code: "nothing-found", data: { step: s.name, register: s.register } } };
  },
  rehearse: () => ({ ids: [], titles: [], more: false, sample: true }),
  tells: () => [],
  forget: {
    work: (w) => w,
    result: ({ asked: _, ...r }) => ({ ...r, titles: [] }),
  },
  doneWords({ ids, titles, more, register, asked = [], ms }, step, names) {
    const took = ms === undefined ? "" : ` (${ms} ms)`;
    if (ids.length === 0) return { text: `${step}: nothing found${took}`, why: asked };
    const told = names.namesRecords(register ?? null) ? titles.slice(0, NAMED) : [];
    const named = told.join("; ");
    const rest = ids.length - told.length;
    const list = rest > 0 && named ? `: ${named} and ${rest} more` : named && `: ${named}`;
    return { text: `${step}: found ${ids.length}${more ? " of more" : ""}${list}${took}`, why: asked };
  },
  reasons: {
    "nothing-found": (d) => `"${d.step}" found no record.`,
    "cannot-find": (d) => `"${d.step}" cannot be searched for: ${d.message}`,
  },
};

function problems(s: StepOf<"find">, { registers, say }: StepProblems) {
  const people = s.register === PEOPLE;
  const shape = people ? undefined : registers[s.register];
  if (!shape && !people)
    say(
      "error",
      "no-register",
      s.register ? `There is no register "${s.register}".` : "Say in which register it looks.",
      "register",
    );
  for (const c of s.sort ?? [])
    if (shape && !shape.columns.some((x) => x.id === c.column))
      say("error", "no-column", `${shape.name} has no column "${c.column}" to sort by.`, "sort");
    else if (people && !PEOPLE_SORTED.some((x) => x.id === c.column))
      say("error", "no-column", `People have no "${c.column}" to sort by.`, "sort");
  const mistake = nameMistake(s.name);
  if (mistake !== null)
    say("error", "bad-name", `What is found is read by the name of the step. ${mistake}`, "name");
  if ((shape ?? people) && !s.where?.trim() && s.take === "some")
    say(
      "warning",
      "finds-all",
      `Without a condition every ${shape?.one ?? "person here"} is meant.`,
      "where",
    );
}
