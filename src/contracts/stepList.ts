import type { z } from "zod";
import type { Step } from "@/core/route";

/** The schema of a list of steps, which the schemas of kinds that hold lists are handed. */
export type StepList = z.ZodType<Step[]>;
