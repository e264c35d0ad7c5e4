import type { ReactNode } from "react";
import type { Names, Scope } from "@/core/expression";
import type { RuleKind, RuleParts } from "./shapes";

export interface RuleEditorProps<K extends RuleKind> {
  rule: RuleParts[K];
  onChange(r: RuleParts[K]): void;
  scope: Scope;
  /** The sample's values; null without one. */
  names: Names | null;
  /** Keeps labels apart where several rules stand together. */
  id: string;
  /** Whether it stands in a ladder, where somebody has the task already. */
  inRung: boolean;
}
/** What is asked of a kind of rule beyond its choice; null where that says it all. */
export type RuleEditorOf<K extends RuleKind> = ((props: RuleEditorProps<K>) => ReactNode) | null;
