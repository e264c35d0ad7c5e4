import type { ReactNode } from "react";
import type { FieldEditorProps } from "@/workshop/parts";

export type { FieldEditorProps } from "@/workshop/parts";

/** What is set up for a kind of field below its row, laid out in `Detail`s; null where there is nothing. */
export type FieldEditor = ((props: FieldEditorProps) => ReactNode) | null;
