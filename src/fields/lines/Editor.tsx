import { RangeDetail } from "@/workshop/parts";
import type { FieldEditorProps } from "../editor";

export const Editor = ({ field, set }: FieldEditorProps) => (
  <RangeDetail field={field} set={set} least="rows, e.g. 1" most="rows, e.g. 20" />
);
