import type { StepBase } from "@/core/route/stepBase";
import type { Clause } from "@/core/expression/why";

/** Branches at the same time; all are waited for. */
export interface Together<List> extends StepBase {
  kind: "together";
  branches: Branch<List>[];
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
