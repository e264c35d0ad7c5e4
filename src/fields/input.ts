import type { ReactNode } from "react";
import type { FactsData, Field } from "@/core/form";
import type { InputContext } from "@/forms/parts";

export interface InputProps {
  field: Field;
  id: string;
  value: string | boolean | null;
  onChange(v: string | boolean | null): void;
  context: InputContext;
  invalid: boolean;
  describedBy?: string | undefined;
  /** Inside a table of lines: no frame until pointed at. */
  compact?: boolean | undefined;
  label: string;
}

/** How a kind of field is filled in and read. */
export interface FieldView {
  Input(p: InputProps): ReactNode;
  /** How a value is read that text does not tell. */
  Reading?(p: Pick<InputProps, "field" | "context"> & { value: string }): ReactNode;
  /** A stored text, which is not empty, for reading. */
  shown(v: string, f: Field, facts: FactsData): string;
  /** Ids of the files it is, which are shown to be looked at and saved; absent where it is none. */
  files?(v: string): string[];
  /** Where it leads for whoever reads it; null for a value that leads nowhere, absent where none does. */
  href?(v: string): string | null;
  /** Set like figures, at the right. */
  figures: boolean;
  /** Its label names a group of controls instead of one. */
  grouped: boolean;
}
