import type { DateStart } from "./date/shape";
import type { FormStart } from "./form/shape";
import type { HandedStart } from "./handed/shape";
import type { MailStart } from "./mail/shape";
import type { PressStart } from "./press/shape";
import type { PublicStart } from "./public/shape";
import type { RecordStart } from "./record/shape";
import type { TimetableStart } from "./timetable/shape";

/** What makes a new request, by kind. To add a kind: its shape here, its folder, and a line in each list. */
export interface StartParts {
  form: FormStart;
  public: PublicStart;
  press: PressStart;
  handed: HandedStart;
  record: RecordStart;
  date: DateStart;
  timetable: TimetableStart;
  mail: MailStart;
}
export type StartKind = keyof StartParts;
export type Start = StartParts[StartKind];
export type StartOf<K extends StartKind> = StartParts[K];
