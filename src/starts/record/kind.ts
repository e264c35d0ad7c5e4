import { checkFormula, YESNO } from "@/core/expression";
import { findField } from "@/core/form";
import { BEFORE } from "@/core/records";
import type { StartBehaviour } from "@/core/kinds";
import type { RecordStart } from "./shape";

const DID = {
  added: "is added",
  changed: "is changed",
  "added or changed": "is added or changed",
  removed: "is removed",
} as const;

/** Something becomes of a record. */
export const record: StartBehaviour<"record"> = {
  says: "something becomes of a record",
  offer: "it start when something becomes of a record",
  several: true,
  blank: (id) => ({ id, kind: "record", register: "", on: "added or changed", values: [] }),
  mayStart: () => false,
  formulas(s, walk) {
    const reads = { recordOf: s.register, before: true } as const;
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
        s.register ? `There is no register "${s.register}".` : "Say of which register a record starts it.",
        "register",
      );
    for (const id of s.columns ?? [])
      if (shape && !shape.columns.some((c) => c.id === id))
        say("error", "no-column", `${shape.name} has no column "${id}".`, "columns");
    const named = (id: string) => findField(definition.fields, id)?.field;
    if (s.into !== undefined) {
      const f = named(s.into);
      if (f?.kind !== "look-up" || f.register !== s.register)
        say(
          "error",
          "bad-into",
          "The record can only be kept in a look-up field of the same register.",
          "into",
        );
      else if (s.on === "removed")
        say(
          "error",
          "into-removed",
          "A record that is removed can be pointed at no more. Keep what it held by values.",
          "into",
        );
    }
    for (const { field, value } of s.values) {
      const f = named(field);
      if (!f) say("error", "no-field", "A field it fills in is not in the form any more.", `value ${field}`);
      else if (f.worked)
        say("error", "worked-out", `“${f.name}” is worked out; nothing else fills it in.`, `value ${field}`);
      if (!value.trim())
        say("error", "no-value", `Say what “${f?.name ?? field}” begins with.`, `value ${field}`);
    }
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
  fills: (s: RecordStart) => ({ register: s.register, into: s.into ?? null, values: s.values }),
};

const readsBefore = (when: string): boolean =>
  checkFormula(when, {}).reads.references.some((r) => r.name === BEFORE);
