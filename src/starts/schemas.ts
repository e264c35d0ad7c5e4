import type { z } from "zod";
import { schema as form } from "./form/schema";
import { schema as handed } from "./handed/schema";
import { schema as record } from "./record/schema";
import type { StartKind, StartOf } from "./shapes";

export const START_SCHEMAS = { form, handed, record } satisfies { [K in StartKind]: z.ZodType<StartOf<K>> };
