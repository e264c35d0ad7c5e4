import { fillsProblems, formulasOverRecord, sayNoRegister, type StartBehaviour } from "@/core/kinds";
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
  formulas: (s, walk) => formulasOverRecord(s, walk, { recordOf: s.register }),
  problems(s, { registers, definition, say }) {
    const shape = registers[s.register];
    sayNoRegister(s.register, registers, "Say of which register a date starts it.", say);
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
