import { RangeDetail, RegisterDetail } from "@/workshop/parts";
import type { FieldEditorProps } from "../editor";

export const Editor = ({ field, set, registers }: FieldEditorProps) => (
  <>
    <RegisterDetail field={field} set={set} registers={registers} />
    <RangeDetail field={field} set={set} least="records, e.g. 1" most="records, e.g. 20" />
  </>
);
