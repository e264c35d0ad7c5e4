import { fillsProblems, formulasOverRecord, sayNoRegister, type StartBehaviour } from "@/core/kinds";
import type { DateStart } from "./shape";

/** How far from a date it is: "3 working days before". */
export function farText(s: Pick<DateStart, "days" | "working" | "clock">): string {
  const n = Math.abs(s.days);
  if (n === 0) return s.clock ? "at" : "on the day of";
  const unit = s.clock?.slice(0, -1) ?? `${s.working ? "working " : ""}day`;
  return `${n} ${unit}${n === 1 ? "" : "s"} ${s.days < 0 ? "before" : "after"}`;
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
    if (shape && !column)
      say("error", "no-date-column", `Say which date of ${shape.name} is meant.`, "column");
    else if (column && column.kind !== "date" && column.kind !== "date and time")
      say("error", "no-date-column", `"${column.name}" holds no dates.`, "column");
    else if (column && (column.kind === "date and time") !== (s.clock !== undefined))
      say(
        "error",
        "other-count",
        s.clock
          ? `"${column.name}" holds days without a time: count days from it.`
          : `"${column.name}" holds a date and time: count hours or minutes from it.`,
        "column",
      );
    fillsProblems(fillsOf(s), definition.fields, say);
  },
  words: (s) =>
    `${farText(s)} ${s.column || "a date"} of ${s.register || "a register"}${s.clock ? "" : `, at ${s.at}`}${s.when ? `, where ${s.when}` : ""}`,
  ofDates: (s) => ({
    register: s.register,
    column: s.column,
    days: s.days,
    working: s.working === true,
    clock: s.clock ?? null,
    at: s.at,
    when: s.when ?? null,
    again: s.again === true,
    late: s.late !== "never",
  }),
  fills: fillsOf,
};
