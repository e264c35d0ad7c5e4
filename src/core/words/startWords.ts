import { recordTitle, type StoredRecord, type RegisterShape } from "../form";
import type { RecordChange } from "../records";

/** Why a record has started nothing, where what it hangs on could not be worked out. */
export const untoldStart = (why: string): string =>
  `It could not be told whether this starts a request. ${why}`;

/** @param names of the processes that started each other, the first of them once more at the end */
export const circleWords = (names: readonly string[], rounds: number): string =>
  `This would go round in circles: ${names.join(" → ")}, ${rounds} times already for the same record.`;

/** Why a process asks that goes by a timetable. */
export const dayWords = (day: string): string => `it was ${day}`;

/** @param most starts that may lead to each other */
export const chainWords = (most: number): string =>
  `${most} starts by records have led to each other already, and no more may: each seems to write what starts the next.`;

/** What became of a record, as the reason why a process asks: "QH.1890.001.0 · Guild banner was changed". */
export function becauseWords(
  shape: RegisterShape,
  did: RecordChange["did"] | "near" | "day",
  record: StoredRecord | null,
  date: string | null,
): string {
  const called = record ? recordTitle(shape, record) : `a record of ${shape.name}`;
  if (did === "day") return `${dayWords(date ?? "")}, for ${called}`;
  return did === "near" ? `a date of ${called} came near: ${date}` : `${called} was ${did}`;
}
