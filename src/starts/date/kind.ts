import { YESNO } from "@/core/expression";
import { fillsProblems, type StartBehaviour } from "@/core/kinds";
import type { DateStart } from "./shape";

function daysText(s: Pick<DateStart, "days" | "working">): string {
  const n = Math.abs(s.days);
  if (n === 0) return "on the day of";
  return `${n} ${s.working ? "working " : ""}${n === 1 ? "day" : "days"} ${s.days < 0 ? "before" : "after"}`;
}

const fillsOf = ({ register, into, values }: DateStart) => ({ register, into: into ?? null, values });

/** A date of a record comes near. */
export const date: StartBehaviour<"date"> = {
  says: "a date of a record comes near",
  offer: "it start when a date of a record comes near",
  several: true,
  blank: (id) => ({ id, kind: "date", register: "", column: "", days: -7, at: "02:00", values: [] }),
  mayStart: () => false,
  formulas(s, walk) {
    const reads = { recordOf: s.register } as const;
    return {
      ...s,
      ...(s.when === undefined
        ? {}
        : {
            when: walk.formula(
              { place: "when", says: "what must hold of the record", wants: YESNO, reads },
              s.when,
            ),
          }),
      values: s.values.map((v) => ({
        ...v,
        value: walk.formula(
          { place: `value ${v.field}`, says: "what a field begins with", wants: { field: v.field }, reads },
          v.value,
        ),
      })),
    };
  },
  problems(s, { registers, definition, say }) {
    const shape = registers[s.register];
    if (!shape)
      say(
        "error",
        "no-register",
        s.register ? `There is no register "${s.register}".` : "Say of which register a date starts it.",
        "register",
      );
    const column = shape?.columns.find((c) => c.id === s.column);
    if (shape && column?.kind !== "date")
      say(
        "error",
        "no-date-column",
        column ? `"${column.name}" holds no dates.` : `Say which date of ${shape.name} is meant.`,
        "column",
      );
    fillsProblems(fillsOf(s), definition.fields, say);
  },
  words: (s) =>
    `${daysText(s)} ${s.column || "a date"} of ${s.register || "a register"}, at ${s.at}${s.when ? `, where ${s.when}` : ""}`,
  ofDates: (s) => ({
    register: s.register,
    column: s.column,
    days: s.days,
    working: s.working === true,
    at: s.at,
    when: s.when ?? null,
    again: s.again === true,
    late: s.late !== "never",
  }),
  fills: fillsOf,
};
