import type { StartBehaviour } from "@/core/kinds";
import { date } from "./date/kind";
import { form } from "./form/kind";
import { handed } from "./handed/kind";
import { mail } from "./mail/kind";
import { press } from "./press/kind";
import { publicForm } from "./public/kind";
import { record } from "./record/kind";
import { timetable } from "./timetable/kind";
import type { StartKind } from "./shapes";

/** In the order in which the picker offers them. */
export const STARTS = { form, public: publicForm, press, handed, record, date, timetable, mail } satisfies {
  [K in StartKind]: StartBehaviour<K>;
};
