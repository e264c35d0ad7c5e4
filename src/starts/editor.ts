import type { ReactNode } from "react";
import type { StartKind, StartOf } from "./shapes";

export interface StartEditorProps<K extends StartKind> {
  start: StartOf<K>;
  onChange(s: StartOf<K>): void;
}
export type StartEditorOf<K extends StartKind> = (props: StartEditorProps<K>) => ReactNode;
