import { OptionsDetail } from "@/workshop/parts";
import type { FieldEditorProps } from "../editor";

export const Editor = ({ field, set, registers }: FieldEditorProps) => (
  <OptionsDetail field={field} registers={registers} onSet={(patch) => set(patch)} />
);
