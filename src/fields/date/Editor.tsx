import { RangeDetail } from "@/workshop/parts";
import type { FieldEditorProps } from "../editor";

export const Editor = ({ field, set }: FieldEditorProps) => (
  <RangeDetail field={field} set={set} least="2026-01-01" most="2026-12-31" />
);
