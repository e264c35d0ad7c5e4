import { Entity, isList, listOf, valueText } from "@/core/expression";
import { byLine, joinedByLine, linksToOne, MOST_RECORDS, mostRecords, type ValueMistake } from "@/core/form";
import type { FieldBehaviour } from "@/core/kinds";

/** Any number of records of a register, by their ids, in the order in which they were picked. */
export const severalRecords: FieldBehaviour = {
  type: (f, record) => listOf(record(f.register ?? "")),
  // All or none: what holds of every record that is left need not have held of the one that is gone.
  value(f, raw, facts) {
    const { register } = f;
    if (typeof raw !== "string" || !register) return null;
    const ids = byLine(raw);
    return ids.every((id) => facts.isRecord(register, id))
      ? ids.map((id) => facts.record(register, id))
      : null;
  },
  settled: (v) => (isList(v) ? v : [v]).filter((x) => x !== null),
  mistakes(f, raw, v) {
    const ids = typeof raw === "string" ? byLine(raw) : [];
    const out: ValueMistake[] = v === null ? [{ code: "records-gone", data: {} }] : [];
    const value = String(ids.length);
    if (ids.length > mostRecords(f))
      out.push({ code: "too-many-records", data: { value, limit: String(mostRecords(f)) } });
    if (f.min && ids.length < Number(f.min))
      out.push({ code: "too-few-records", data: { value, limit: f.min } });
    return out;
  },
  problems(f, { registers, say }) {
    if (!f.register || !registers[f.register])
      say(
        "error",
        "no-register",
        f.register ? `There is no register "${f.register}".` : `Say which register "${f.name}" looks in.`,
        "register",
      );
    if (f.max !== undefined && Number(f.max) > MOST_RECORDS)
      say("error", "bad-range", `"${f.name}" can hold at most ${MOST_RECORDS} records, not ${f.max}.`, "max");
  },
  has: { options: null, range: "rows", money: false },
  guess: null,
  idOf: "record",
  links: linksToOne,
  many: {
    texts: byLine,
    kept: (of) => joinedByLine(of.map((v) => (v instanceof Entity ? v.id : valueText(v)))),
  },
  filler: null,
  cell: null,
};
