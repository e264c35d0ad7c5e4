import {
  ANY,
  checkFormula,
  isList,
  listOf,
  nameMistake,
  typeInWords,
  YESNO,
  type Names,
} from "@/core/expression";
import { findField, flatFields, type RegisterShape, type RuleOccasion } from "@/core/form";
import { idsIn, type Next, type StepBehaviour, type StepProblems, type StepTurn } from "@/core/kinds";
import type { Write, WriteResult, WriteWork, WrittenRecord } from "./shape";

/** What becomes of records by each way of writing. */
const DOES = {
  add: ["added"],
  change: ["changed"],
  put: ["added", "changed"],
  remove: ["removed"],
} as const satisfies Record<Write["op"], readonly RuleOccasion[]>;

/** Adds, changes or removes records of a register. */
export const write: StepBehaviour<"write"> = {
  verb: "Write",
  says: "add, change or remove records",
  blank: (id) => ({ id, name: "Write", kind: "write", op: "change", register: "", values: [] }),
  lists: null,
  asks: null,
  formulas(s, walk) {
    const reads = s.each ? { rowsOf: s.each } : ("route" as const);
    const valueReads = s.own ? { columnsOf: s.register } : reads;
    return {
      ...s,
      ...(s.record === undefined
        ? {}
        : { record: walk.formula({ place: "record", says: "which record", wants: ANY, reads }, s.record) }),
      values: s.values.map((v) => ({
        ...v,
        value: walk.formula(
          {
            place: `value ${v.column}`,
            says: `what is written into ${v.column}`,
            wants: { column: v.column, of: s.register },
            reads: valueReads,
          },
          v.value,
        ),
      })),
      ...(s.must === undefined
        ? {}
        : {
            must: walk.formula(
              {
                place: "must",
                says: "what must hold of the record",
                wants: YESNO,
                reads: { recordOf: s.register },
              },
              s.must,
            ),
          }),
    };
  },
  steps: (s) => s,
  sets: (s) => (s.into ? [s.into] : []),
  searches: (s) => ({ register: s.register, columns: [] }),
  writes: (s) =>
    s.quietly ? null : { register: s.register, does: DOES[s.op], columns: s.values.map((v) => v.column) },
  // Of what was removed nothing is left to be read.
  isReadByName: (s) => s.keeps === true && s.op !== "remove",
  gives(s, { record, here }) {
    const several = s.each !== undefined || (s.op === "change" && here(s.record ?? "").t === "list");
    return several ? listOf(record(s.register)) : record(s.register);
  },
  problems,
  exit: () => null,
  goesOn: () => true,
  passes: true,
  mayBeNothing: (s) => s.each === undefined && s.must !== undefined && s.otherwise === "leave",
  enter(turn, s) {
    const rows: WriteWork["rows"] = [];
    let many = s.each !== undefined;
    for (const names of s.each ? turn.rows(s.each) : [turn.names()]) {
      const values = s.own ? {} : valuesOf(turn, s, names);
      if (s.op === "add" || s.op === "put") {
        rows.push({ record: null, values });
        continue;
      }
      const value = turn.value("record", s.record, names);
      // One that stands in a list twice is meant once.
      const ids = idsIn(value, s.register);
      const records = [...new Set(ids)];
      // A list may well be empty; a record that is not there, or of another register, is a mistake.
      if (ids === null || (records.length === 0 && !isList(value)))
        return {
          go: "stuck",
          reason: { code: "no-record", data: { step: s.name, formula: s.record ?? "" } },
        };
      many ||= isList(value);
      for (const record of records) rows.push({ record, values });
    }
    if (rows.length === 0) return keptOf(turn, s, { records: [], many: true });
    const { register, op } = s;
    return {
      go: "waits",
      work: {
        kind: "write",
        register,
        op,
        rows,
        must: s.must ?? null,
        otherwise: s.otherwise ?? "stop",
        ...(s.own ? { own: s.values } : {}),
        ...(s.op === "put" && s.key !== undefined ? { key: s.key } : {}),
        ...(s.clears ? { clears: true } : {}),
        ...(s.quietly ? { quietly: true } : {}),
        ...(many ? { many: true } : {}),
      },
    };
  },
  done(turn, s, result) {
    const made = result.records.find((r) => r.did === "added");
    if (s.into && made) turn.set({ [s.into]: made.id });
    return keptOf(turn, s, result);
  },
  rehearse: (s) => ({ records: [], ...(s.each ? { many: true } : {}) }),
  tells: () => [],
  forget: {
    work: (w) => ({ ...w, rows: w.rows.map((r) => ({ ...r, values: {} })) }),
    result: (r) => ({ ...r, records: r.records.map((x) => ({ ...x, title: "" })) }),
  },
  doneWords({ records }, step, names) {
    const parts = DID.flatMap((did) => {
      const written = records.filter((r) => r.did === did);
      const titles = written.filter((r) => names.namesRecords(r.register)).map((r) => r.title);
      if (written.length === 0) return [];
      if (titles.length === 0)
        return [`${did} ${written.length === 1 ? "one record" : `${written.length} records`}`];
      const more = titles.length > 4 ? ` and ${titles.length - 4} more` : "";
      return [`${did} ${titles.slice(0, 4).join(", ")}${more}`];
    });
    return { text: `${step}: ${parts.join("; ") || "nothing to write"}` };
  },
  reasons: {
    "must-not": (d) =>
      `"${d.step}" changed nothing: for ${d.record} the condition "${d.condition}" does not hold.`,
    "no-record": (d) => `"${d.step}" finds no record to write (${d.formula}).`,
    "write-refused": (d) => `"${d.step}" could not be written: ${d.message}`,
  },
};

/** Keeps what was written where it is read by name: also nothing, or what an earlier visit wrote would stay. */
function keptOf(turn: StepTurn<"write">, s: Write, { records, many }: WriteResult): Next<"write"> {
  if (s.keeps && s.op !== "remove") {
    const written = records.filter((r) => r.did === "added" || r.did === "changed");
    const ids = [...new Set(written.map((r) => r.id))];
    turn.keep({ register: s.register, ids, many: many === true });
  }
  return { go: "on" };
}

const DID: readonly WrittenRecord["did"][] = ["added", "changed", "removed", "left alone"];

const valuesOf = (turn: StepTurn<"write">, s: Write, names: Names) =>
  Object.fromEntries(
    s.values.map((v) => [
      v.column,
      turn.valueForColumn(`value ${v.column}`, v.value, { register: s.register, id: v.column }, names),
    ]),
  );

function problems(s: Write, { definition, registers, scope, say }: StepProblems) {
  const shape = registers[s.register];
  const named = s.record && !s.each ? checkFormula(s.record, scope).type : ANY;
  const one = named.t === "list" ? named.of : named;
  // Of one that may be of several registers the others are refused as the step runs.
  const own = one.t === "context" ? (one.among ?? (one.what === undefined ? null : [one.what])) : null;
  if (shape && own && !own.includes(s.register))
    say(
      "error",
      "other-register",
      `“${s.record}” is ${typeInWords(one)}, and ${shape.name} is written.`,
      "record",
    );
  if (!shape)
    say(
      "error",
      "no-register",
      s.register ? `There is no register "${s.register}".` : "Say which register is written.",
      "register",
    );
  if ((s.op === "change" || s.op === "remove") && !s.record)
    say("error", "no-record-rule", "Say which record is meant, for example: Store.", "record");
  if (s.op !== "remove" && s.values.length === 0)
    say("error", "no-values", "Nothing is written: add a column and its value.", "values");
  for (const v of s.values) {
    const c = shape?.columns.find((x) => x.id === v.column);
    if (shape && !c) say("error", "no-column", `${shape.name} has no column "${v.column}".`, "values");
    if (c?.worked)
      say(
        "error",
        "worked-out",
        `"${c.name}" is worked out by the register; nothing else writes it.`,
        "values",
      );
  }
  if (s.op === "put") keyProblems(s, shape, say);
  const mistake = s.keeps ? nameMistake(s.name) : null;
  if (mistake !== null)
    say("error", "bad-name", `What is written is read by the name of the step. ${mistake}`, "name");
  if (s.own && (s.op !== "change" || s.each))
    say(
      "error",
      "own-columns",
      "Only records that are there and are changed, and not line by line, have columns to work values out over.",
      "values",
    );
  if (shape && (s.op === "add" || s.op === "put"))
    for (const c of shape.columns)
      if (c.needed && !c.starting && !c.worked && !s.values.some((v) => v.column === c.id))
        say("error", "column-needed", `A new ${shape.one} needs "${c.name}".`, "values");
  if (s.each && findField(definition.fields, s.each)?.field.kind !== "lines")
    say("error", "no-lines", "The line items it goes through are not in the form any more.", "each");
  if (s.into) {
    const f = flatFields(definition.fields).find((x) => x.id === s.into);
    if (f?.kind !== "look-up" || f.register !== s.register)
      say(
        "error",
        "bad-into",
        "The new record can only be kept in a look-up field of the same register.",
        "into",
      );
  }
}

function keyProblems(s: Write, shape: RegisterShape | undefined, say: StepProblems["say"]) {
  const column = shape?.columns.find((c) => c.id === s.key);
  if (!column) say("error", "no-key", "Say by which column a record is found again.", "key");
  else if (!s.values.some((v) => v.column === s.key))
    say("error", "no-key-value", `Say what ${column.name} is: by it a record is found again.`, "values");
  else if (!column.unique && shape!.key_column !== column.id)
    say(
      "warning",
      "key-not-unique",
      `Two records may have the same ${column.name}; where they do, it cannot be told which is meant, and the step stops.`,
      "key",
    );
}
