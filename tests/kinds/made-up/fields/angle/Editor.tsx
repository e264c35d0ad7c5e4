import { RangeDetail } from "@/workshop/parts";
import type { FieldEditorProps } from "@/fields/editor";

export const Editor = ({ field, set }: FieldEditorProps) => (
  <RangeDetail field={field} set={set} least="0" most="360" />
);
