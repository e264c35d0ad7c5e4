import { RangeDetail } from "@/workshop/parts";
import type { FieldEditorProps } from "../editor";

export const Editor = ({ field, set }: FieldEditorProps) => (
  <RangeDetail field={field} set={set} least="least, e.g. 0" most="most, e.g. 100" />
);
