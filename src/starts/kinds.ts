import type { StartBehaviour } from "@/core/kinds";
import { form } from "./form/kind";
import { handed } from "./handed/kind";
import type { StartKind } from "./shapes";

/** In the order in which the picker offers them. */
export const STARTS = { form, handed } satisfies { [K in StartKind]: StartBehaviour<K> };
