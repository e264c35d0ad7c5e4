import { BEFORE, readsBefore } from "@/core/records";
import { fillsProblems, formulasOverRecord, sayNoRegister, type StartBehaviour } from "@/core/kinds";
import type { RecordStart } from "./shape";

const DID = {
  added: "is added",
  changed: "is changed",
  "added or changed": "is added or changed",
  removed: "is removed",
} as const;

const fillsOf = ({ register, into, values }: RecordStart) => ({ register, into: into ?? null, values });

/** Something becomes of a record. */
export const record: StartBehaviour<"record"> = {
  says: "something becomes of a record",
  offer: "it start when something becomes of a record",
  several: true,
  blank: (id) => ({ id, kind: "record", register: "", on: "added or changed", values: [] }),
  mayStart: () => false,
  formulas: (s, walk) => formulasOverRecord(s, walk, { recordOf: s.register, before: true }),
  problems(s, { registers, definition, say }) {
    const shape = registers[s.register];
    sayNoRegister(s.register, registers, "Say of which register a record starts it.", say);
    for (const id of s.columns ?? [])
      if (shape && !shape.columns.some((c) => c.id === id))
        say("error", "no-column", `${shape.name} has no column "${id}".`, "columns");
    if (s.into !== undefined && s.on === "removed")
      say(
        "error",
        "into-removed",
        "A record that is removed can be pointed at no more. Keep what it held by values.",
        "into",
      );
    fillsProblems(fillsOf(s), definition.fields, say);
    if (
      shape &&
      s.when &&
      !s.each &&
      (s.on === "changed" || s.on === "added or changed") &&
      readsBefore(s.when)
    )
      say(
        "error",
        "before-newly",
        `Whether it newly holds is told by itself. A condition over ${BEFORE} goes with “each time it holds”.`,
        "when",
      );
    if (shape && !s.when && !s.columns?.length && s.on !== "added" && s.on !== "removed")
      say(
        "warning",
        "every-change",
        `Every change of every ${shape.one} starts a request. Say when, or which columns.`,
        "when",
      );
  },
  words(s) {
    const which = s.when ? `, and ${s.when}` : "";
    return `a record of ${s.register || "a register"} ${DID[s.on]}${which}`;
  },
  ofRecords: (s: RecordStart) => ({
    register: s.register,
    on: s.on,
    when: s.when ?? null,
    newly: s.each !== true,
    columns: s.columns?.length ? s.columns : null,
  }),
  fills: fillsOf,
};
