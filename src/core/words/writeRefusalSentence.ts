import { recordTitle, type RegisterShape, type Registers } from "../form";
import type { WriteRefusal } from "../records";
import { formProblemSentence } from "./sentences";

/** Why a record was not written, in words: what, where, and the way out. */
export function writeRefusalSentence(why: WriteRefusal, shape: RegisterShape, registers: Registers): string {
  const { one } = shape;
  switch (why.code) {
    case "form":
      return why.problems.map(formProblemSentence).join(" ");
    case "gone":
      return `This ${one} is not there any more. Somebody has removed it.`;
    case "changed-since":
      return `Somebody has changed this ${one} since you looked. Nothing was kept: look at theirs, then keep yours again.`;
    case "taken":
      return `No two records of ${shape.name} may have the same ${why.column}, and ${
        why.by ? `${why.by.title} has "${why.value}" already` : "another has this one already"
      }.`;
    case "pointed-at": {
      const counted = why.by.map((p) => ({ register: p.register, count: p.records.length }));
      return `It cannot be removed: ${pointedWords(counted, registers)} would lose what they point at. Clear those links, or change them first.`;
    }
    case "unfit":
      return why.message;
    case "must-not":
      return `${recordTitle(shape, why.record)} is not as it must be for this any more.`;
    case "unclear":
      return `For ${recordTitle(shape, why.record)} it cannot be told whether this may be done: ${why.why}`;
  }
}

/** "1 loan, 3 of Treatments": what points at a record, counted by register. */
export function pointedWords(
  by: readonly { register: string; count: number }[],
  registers: Registers,
): string {
  const counts = new Map<string, number>();
  for (const { register, count } of by) counts.set(register, (counts.get(register) ?? 0) + count);
  return [...counts]
    .map(([key, n]) => {
      const shape = registers[key];
      if (!shape) return `${n} records`;
      return n === 1 ? `1 ${shape.one}` : `${n} of ${shape.name}`;
    })
    .join(", ");
}
