import {
  ANY,
  Entity,
  equalValues,
  isList,
  isNum,
  listOf,
  nameMistake,
  Num,
  NUMBER,
  YESNO,
  type Names,
  type Type,
  type Value,
} from "@/core/expression";
import { findField } from "@/core/form";
import type {
  RoundsToGo,
  RoundTypes,
  StepBehaviour,
  StepProblems,
  StepTurn,
  StoredValue,
} from "@/core/kinds";
import type { StepOf } from "@/core/route";
import { MOST_ROUNDS, MOST_TIMES, type ForEachNews, type ForEachReason } from "./shape";

type Step = StepOf<"for each">;

/** Rounds of which some leave something behind, which is kept for all of them. */
const mostOf = (s: Step): number => ("times" in s.over && !s.collect ? MOST_TIMES : MOST_ROUNDS);

const elementOf = (t: Type): Type => (t.t === "list" ? t.of : ANY);

/** What one of the things is, before they are gathered. */
function thingType(s: Step, types: RoundTypes): Type {
  if ("lines" in s.over) return types.row(s.over.lines);
  return "list" in s.over ? elementOf(types.of(s.over.list)) : NUMBER;
}

/** Goes through its steps once for each of several things. */
export const forEach: StepBehaviour<"for each"> = {
  verb: "For each",
  says: "once per line, record or thing of a list",
  blank: (id) => ({
    id,
    name: "Rounds",
    kind: "for each",
    over: { list: "" },
    item: "Item",
    bodies: [{ id: `${id}-body`, steps: [] }],
  }),
  lists: {
    in: "bodies",
    one: "round",
    name: () => "each round",
    back: () => false,
    blank: (id) => ({ id, steps: [] }),
    at: () => 0,
    most: 1,
    least: 1,
    sideBySide: true,
    passedBy: true,
  },
  asks: null,
  formulas: (s, walk) => ({
    ...s,
    over: overWalked(s, walk),
    ...(s.only === undefined
      ? {}
      : {
          only: walk.formula(
            { place: "only", says: "for which ones it is gone through", wants: YESNO, reads: "items" },
            s.only,
          ),
        }),
    ...(s.gather
      ? {
          gather: {
            ...s.gather,
            by: walk.formula(
              { place: "gather", says: "which ones go together", wants: ANY, reads: "items" },
              s.gather.by,
            ),
          },
        }
      : {}),
    ...(s.collect === undefined
      ? {}
      : {
          collect: walk.formula(
            { place: "collect", says: "what each round leaves behind", wants: ANY, reads: "rounds" },
            s.collect,
          ),
        }),
    ...(s.until === undefined
      ? {}
      : {
          until: walk.formula(
            { place: "until", says: "when no more rounds are needed", wants: YESNO, reads: "rounds" },
            s.until,
          ),
        }),
  }),
  steps: (s) => s,
  sets: () => [],
  gives: (s, { inRounds }) => listOf(s.collect ? inRounds(s.collect) : ANY),
  rounds: {
    names(s, types) {
      const thing = thingType(s, types);
      const counts = [
        { role: "number", name: `${s.item} number`, type: NUMBER },
        { role: "count", name: `${s.item} count`, type: NUMBER },
      ];
      if (!s.gather) return [{ role: "item", name: s.item, type: thing }, ...counts];
      return [
        { role: "item", name: s.item, type: listOf(thing) },
        { role: "key", name: s.gather.as, type: types.ofItem(s.gather.by, { [s.item]: thing }) },
        ...counts,
      ];
    },
    choosing: (s, types) => [{ role: "item", name: s.item, type: thingType(s, types) }],
    called: (s, as) => ({
      ...s,
      item: as.item,
      ...(s.gather && as.gather ? { gather: { ...s.gather, as: as.gather.as } } : {}),
    }),
    value(s, role, { item, number, of }) {
      if (role === "number") return Num.of(number);
      if (role === "count") return Num.of(of);
      if (!s.gather) return item;
      // Gathered ones are kept as what they have in common, and the list of them.
      const [key, list] = isList(item) ? item : [];
      return (role === "key" ? key : list) ?? null;
    },
    one: (s) => s.gather?.as ?? s.item,
    about: (s, item) =>
      s.gather && typeof item === "object" && item && "list" in item ? (item.list[0] ?? null) : item,
    behind: (s) => [
      ...("list" in s.over ? [{ place: "list", formula: s.over.list }] : []),
      ...(s.gather ? [{ place: "gather", formula: s.gather.by }] : []),
    ],
    ended(turn, s) {
      const enough = s.until ? turn.value("until", s.until) === true : false;
      if (!s.collect) return { left: undefined, enough };
      return { left: turn.stored("collect", s.collect, turn.value("collect", s.collect)), enough };
    },
    done(turn, s, left) {
      if (s.collect) turn.keep({ value: { list: left } });
      return { go: "on" };
    },
  },
  problems,
  exit: () => null,
  goesOn: () => true,
  passes: false,
  enter(turn, s) {
    // Also nothing is kept: what an earlier time left behind must not be taken for what this one does.
    if (s.collect) turn.keep({ value: { list: [] } });
    const all = thingsOf(turn, s);
    if ("code" in all) return { go: "stuck", reason: all };
    const { things, count } = all;
    const meant = things && only(turn, s, things);
    const chosen = meant === null ? count : gathered(turn, s, meant);
    const rounds = typeof chosen === "number" ? chosen : chosen.length;
    const most = mostOf(s);
    if (rounds > most)
      return {
        go: "stuck",
        reason: { code: "too-many-rounds", data: { step: s.name, rounds: String(rounds), limit: most } },
      };
    turn.did({
      kind: "for each",
      rounds,
      ...(s.gather && meant ? { over: meant.length } : {}),
      ...(s.only && things ? { of: things.length } : {}),
    });
    const rest: Omit<RoundsToGo, "items"> = {
      list: s.bodies[0]?.id ?? "",
      atOnce: s.atOnce ?? null,
      stuckHolds: s.stuckHolds === true,
    };
    return { go: "rounds", ...rest, items: chosen };
  },
  news: {
    line: (n, step) => ({ text: `${step}: ${roundsText(n)}`, quiet: true }),
    outcome: (n) => (n.rounds === 0 ? "nothing to go through" : ""),
    lists: () => [],
  },
  reasons: {
    "no-list": (d) => `"${d.step}" cannot be gone through: ${d.formula} comes to no list.`,
    "too-many-rounds": (d) => `"${d.step}" would be gone through ${d.rounds} times; ${d.limit} is the most.`,
  },
};

/** "4 rounds, for 20 of 25" */
function roundsText({ rounds, over, of }: ForEachNews): string {
  if (rounds === 0) return "nothing to go through";
  const things = over ?? rounds;
  const left = of !== undefined && of !== things ? ` of ${of}` : "";
  const total = over !== undefined || left ? `, for ${things}${left}` : "";
  return `${rounds === 1 ? "one round" : `${rounds} rounds`}${total}`;
}

function overWalked(s: Step, walk: Parameters<typeof forEach.formulas>[1]): Step["over"] {
  if ("list" in s.over)
    return {
      list: walk.formula(
        { place: "list", says: "the list that is gone through", wants: listOf(ANY) },
        s.over.list,
      ),
    };
  if ("times" in s.over)
    return { times: walk.formula({ place: "times", says: "how many times", wants: NUMBER }, s.over.times) };
  return s.over;
}

interface Thing {
  item: StoredValue;
  value: Value;
}
/** What there is to go through; only how many where they are counted. */
function thingsOf(
  turn: StepTurn<"for each">,
  s: Step,
): { things: Thing[]; count: 0 } | { things: null; count: number } | ForEachReason {
  if ("lines" in s.over) return { things: turn.items(s.over.lines), count: 0 };
  if ("list" in s.over) {
    const { list } = s.over;
    const v = turn.value("list", list);
    // Nothing is a list of nothing; a single thing is not taken for a list of it.
    if (v === null) return { things: [], count: 0 };
    if (!isList(v)) return { code: "no-list", data: { step: s.name, formula: list } };
    if (v.length > MOST_ROUNDS)
      return {
        code: "too-many-rounds",
        data: { step: s.name, rounds: String(v.length), limit: MOST_ROUNDS },
      };
    return { things: v.map((value) => ({ item: turn.stored("list", list, value), value })), count: 0 };
  }
  const n = turn.value("times", s.over.times);
  if (n === null) return { things: null, count: 0 };
  if (!isNum(n) || !n.isInteger() || n.isNegative())
    return {
      code: "too-many-rounds",
      data: { step: s.name, rounds: isNum(n) ? n.toString() : "?", limit: mostOf(s) },
    };
  return { things: null, count: n.toNumber() };
}

const beside = (turn: StepTurn<"for each">, s: Step, value: Value): Names => {
  const names = turn.names();
  return { get: (n) => (n === s.item ? value : names.get(n)) };
};

const only = (turn: StepTurn<"for each">, s: Step, things: readonly Thing[]): readonly Thing[] =>
  s.only ? things.filter((t) => turn.value("only", s.only, beside(turn, s, t.value)) === true) : things;

/** Those that are alike in one round, in the order in which the first of each stands. */
function gathered(turn: StepTurn<"for each">, s: Step, things: readonly Thing[]): StoredValue[] {
  if (!s.gather) return things.map((t) => t.item);
  const { by } = s.gather;
  const groups: { key: Value; kept: StoredValue; of: StoredValue[] }[] = [];
  const bySame = new Map<string, (typeof groups)[number]>();
  for (const t of things) {
    const key = turn.value("gather", by, beside(turn, s, t.value));
    const kept = turn.stored("gather", by, key);
    const same = JSON.stringify(kept);
    // What is kept alike is alike; a moment in two zones, or 1 and 1.0, are alike and may be kept otherwise.
    const simple =
      key === null || typeof key === "string" || typeof key === "boolean" || key instanceof Entity;
    const known =
      bySame.get(same) ?? (simple ? undefined : groups.find((g) => equalValues(g.key, key) === true));
    if (known) {
      known.of.push(t.item);
      continue;
    }
    const group = { key, kept, of: [t.item] };
    groups.push(group);
    bySame.set(same, group);
  }
  return groups.map((g) => ({ list: [g.kept, { list: g.of }] }));
}

function problems(s: Step, { definition, scope, say }: StepProblems) {
  if ("lines" in s.over) {
    const f = s.over.lines ? findField(definition.fields, s.over.lines)?.field : undefined;
    if (f?.kind !== "lines") say("error", "no-lines", "Say which line items it goes through.", "over");
  } else if (!("list" in s.over ? s.over.list : s.over.times).trim())
    say("error", "no-list", "Say what it goes through: line items, a list, or how many times.", "over");
  if ("times" in s.over && s.gather)
    say("error", "gather-times", "Only things can be gathered; this only counts rounds.", "gather");
  const names = [s.item, `${s.item} number`, `${s.item} count`, ...(s.gather ? [s.gather.as] : [])];
  for (const [i, name] of names.entries()) {
    const mistake = nameMistake(name);
    if (mistake !== null) say("error", "bad-name", mistake, "item");
    else if (Object.hasOwn(scope, name) || names.indexOf(name) < i)
      say(
        "error",
        "name-twice",
        `“${name}” is called so already; formulas in the rounds could not tell them apart.`,
        "item",
      );
    if (mistake !== null) break;
  }
  const mistake = s.collect ? nameMistake(s.name) : null;
  if (mistake !== null)
    say("error", "bad-name", `What rounds leave behind is read by the name of the step. ${mistake}`, "name");
  if (s.bodies[0]?.steps.length === 0)
    say("warning", "empty-rounds", `"${s.name}" has no steps to go through.`, "body");
}
