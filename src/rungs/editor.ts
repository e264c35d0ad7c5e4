import type { ReactNode } from "react";
import type { Scope } from "@/core/expression";
import type { AnswerChoice } from "@/core/route";
import type { RungKind, RungParts } from "./shapes";

export interface RungEditorProps<K extends RungKind> {
  action: RungParts[K];
  onChange(a: RungParts[K]): void;
  scope: Scope;
  answers: readonly AnswerChoice[];
  /** Keeps labels apart where several stand together. */
  id: string;
  /** "Rung 1", before what is asked. */
  label: string;
}
/** What is asked of a kind of rung beyond its choice; null where that says it all. */
export type RungEditorOf<K extends RungKind> = ((props: RungEditorProps<K>) => ReactNode) | null;
