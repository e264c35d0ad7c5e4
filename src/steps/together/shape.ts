import type { StepBase } from "@/core/route/stepBase";
import type { Clause } from "@/core/expression/why";

/** Branches at the same time; all are waited for, or enough of them. */
export interface Together<List> extends StepBase {
  kind: "together";
  branches: Branch<List>[];
  /** How many have to end before it goes on; absent for all. */
  needs?: number;
  /** Asked whenever one has ended: no more are waited for. */
  until?: string;
  /** What becomes of the others: absent, they are called off. */
  othersRunOn?: true;
}
export interface Branch<List> {
  id: string;
  name: string;
  /** Formula for whether this branch is needed at all. */
  when?: string;
  steps: List;
}

/** Which branches were opened, and why the others were not. */
export interface TogetherNews {
  kind: "together";
  opened: string[];
  left: { branch: string; name: string; why: Clause[] }[];
}
