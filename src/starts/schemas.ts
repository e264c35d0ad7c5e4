import type { z } from "zod";
import { schema as date } from "./date/schema";
import { schema as form } from "./form/schema";
import { schema as handed } from "./handed/schema";
import { schema as mail } from "./mail/schema";
import { schema as press } from "./press/schema";
import { schema as publicForm } from "./public/schema";
import { schema as record } from "./record/schema";
import { schema as timetable } from "./timetable/schema";
import type { StartKind, StartOf } from "./shapes";

export const START_SCHEMAS = {
  form,
  public: publicForm,
  press,
  handed,
  record,
  date,
  timetable,
  mail,
} satisfies {
  [K in StartKind]: z.ZodType<StartOf<K>>;
};
