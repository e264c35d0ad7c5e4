import type {
  FactsData,
  FileFacts,
  FormAnswer,
  FormData,
  FormQuestion,
  SignatureShown,
  StoredRecord,
} from "@/core/form";

export type LookUp = (
  register: string,
  search: string,
) => Promise<{ id: string; title: string; record: StoredRecord }[]>;
/** Asks the server over what is filled in; the field whose condition says what can be picked is among it. */
export type FormAsk = (data: FormData, question: FormQuestion) => Promise<FormAnswer>;
export interface InputContext {
  facts: FactsData;
  /** By field or column, all that can be picked there; others are as their kind says. */
  offers: Readonly<Record<string, readonly string[]>>;
  /** Of whoever reads it. */
  zone: string;
  /** By field the signatures that are kept. */
  signed: Readonly<Record<string, SignatureShown>>;
  lookUp: LookUp;
  /** What can be picked in a field by its condition; null where no form is filled in that could be asked over. */
  offered: ((field: string, row: string | null, search: string) => Promise<FormAnswer>) | null;
  /** A record picked just now, so that formulas can read it at once. */
  learn(register: string, record: StoredRecord): void;
  learnFile(file: FileFacts): void;
  /** A file more, or one less, is on its way: the form waits for it. */
  busy(by: 1 | -1): void;
}
