import type { FactsData, FileFacts, SignatureShown, StoredRecord } from "@/core/form";

export type LookUp = (
  register: string,
  search: string,
) => Promise<{ id: string; title: string; record: StoredRecord }[]>;
export interface InputContext {
  facts: FactsData;
  /** By field or column, all that can be picked there; others are as their kind says. */
  offers: Readonly<Record<string, readonly string[]>>;
  /** Of whoever reads it. */
  zone: string;
  /** By field the signatures that are kept. */
  signed: Readonly<Record<string, SignatureShown>>;
  lookUp: LookUp;
  /** A record picked just now, so that formulas can read it at once. */
  learn(register: string, record: StoredRecord): void;
  learnFile(file: FileFacts): void;
  /** A file more, or one less, is on its way: the form waits for it. */
  busy(by: 1 | -1): void;
}
