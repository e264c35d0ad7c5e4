import type { Gathered, HitPolicy } from "@/core/decision";
import type { Apply } from "./shape";

/** What becomes of the rules that hold, each in words. */
export const HITS: Readonly<Record<HitPolicy, string>> = {
  unique: "only one may hold",
  any: "several may hold that agree",
  first: "the first that holds",
  priority: "the highest that holds",
  collect: "all that hold",
  "rule order": "all that hold, in order",
  "output order": "all that hold, the highest first",
};
export const GATHERED: Readonly<Record<Gathered, string>> = {
  sum: "their sum",
  min: "the least of them",
  max: "the greatest of them",
  count: "how many",
};

export const hitsSaid = ({ hits, gathers }: Pick<Apply, "hits" | "gathers">): string =>
  hits === "collect" && gathers ? `${GATHERED[gathers]} of all that hold` : HITS[hits];
