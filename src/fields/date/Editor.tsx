import { RangeDetail } from "@/workshop/parts";
import type { FieldEditorProps } from "../editor";

export const Editor = ({ field, set }: FieldEditorProps) => (
  <RangeDetail field={field} set={set} least="e.g. 2026-01-01" most="e.g. 2026-12-31" />
);
