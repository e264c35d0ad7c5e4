import { OptionsDetail } from "@/workshop/parts";
import type { FieldEditorProps } from "../editor";

export const Editor = ({ field, set }: FieldEditorProps) => (
  <OptionsDetail field={field} onSet={(patch) => set(patch)} />
);
