"use client";
import { createContext, useContext, type ReactNode } from "react";
import type { Names, Scope } from "@/core/expression";
import type { Field, FieldKind, Registers } from "@/core/form";
import type { ListHolder } from "@/core/kinds";
import type {
  AnswerChoice,
  Rule,
  RuleKind,
  RungAction,
  RungKind,
  Start,
  StartKind,
  Step,
  StepKind,
} from "@/core/route";
import type { LucideIcon } from "lucide-react";

/** How kinds look and are edited, as the sheets meet them, knowing none by name. */
export interface KindViews {
  steps: Readonly<Record<StepKind, AnyStepView>>;
  rules: Readonly<Record<RuleKind, ((p: AnyRuleProps) => ReactNode) | null>>;
  rungs: Readonly<Record<RungKind, ((p: AnyRungProps) => ReactNode) | null>>;
  starts: Readonly<Record<StartKind, (p: { start: Start; onChange(s: Start): void }) => ReactNode>>;
  fields: Readonly<Record<FieldKind, ((p: FieldEditorProps) => ReactNode) | null>>;
}
export interface FieldEditorProps {
  field: Field;
  /** Sets properties, or takes them away with null. */
  set(patch: {
    [K in "options" | "register" | "registers" | "min" | "max" | "picture"]?: Field[K] | null;
  }): void;
  registers: Registers;
}
export interface AnyStepView {
  icon: LucideIcon;
  Sentence(p: { step: Step; scope: Scope }): ReactNode;
  ListHead?(p: { step: Step; list: ListHolder; scope: Scope; last: boolean }): ReactNode;
}
export interface AnyRuleProps {
  rule: Rule;
  onChange(r: Rule): void;
  scope: Scope;
  names: Names | null;
  id: string;
  inRung: boolean;
}
export interface AnyRungProps {
  action: RungAction;
  onChange(a: RungAction): void;
  scope: Scope;
  answers: readonly AnswerChoice[];
  id: string;
  label: string;
}

const Context = createContext<KindViews | null>(null);
export const KindViewsProvider = Context.Provider;
export function useKindViews(): KindViews {
  const views = useContext(Context);
  if (!views) throw new Error("useKindViews stands outside its provider");
  return views;
}
