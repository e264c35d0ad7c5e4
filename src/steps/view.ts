import type { LucideIcon } from "lucide-react";
import type { ReactNode } from "react";
import type { Scope } from "@/core/expression";
import type { ListHolder } from "@/core/kinds";
import type { StepOf } from "@/core/route";
import type { StepKind } from "./shapes";

type Holder<S> = { [P in keyof S]-?: S[P] extends ListHolder[] ? S[P][number] : never }[keyof S];

/** How a kind of step looks on the route sheet. */
export type StepView<K extends StepKind> = {
  icon: LucideIcon;
  /** The step as a sentence, its changeable parts as chips. */
  Sentence(p: SentenceProps<K>): ReactNode;
} & ([Holder<StepOf<K>>] extends [never] ? unknown : { ListHead(p: ListHeadProps<K>): ReactNode });

export interface SentenceProps<K extends StepKind> {
  step: StepOf<K>;
  /** The names a formula of the route may read. */
  scope: Scope;
}
/** The head of one of its lists: what it is called, when it is taken, where it leads. */
export interface ListHeadProps<K extends StepKind> {
  step: StepOf<K>;
  list: Holder<StepOf<K>>;
  scope: Scope;
  last: boolean;
}
