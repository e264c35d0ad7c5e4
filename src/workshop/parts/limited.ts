import type { Asks, Limit, Step } from "@/core/route";

/** A step that asks people and has a limit. */
export type Limited = Step & Asks & { limit: Limit };
