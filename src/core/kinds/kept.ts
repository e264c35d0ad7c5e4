/** Records that a step found, by their ids: what they hold is read when it is asked for. */
export interface KeptRecords {
  register: string;
  ids: readonly string[];
  /** A list of them, and not the only one or none. */
  many: boolean;
}
/** What a step keeps to be read by its name: records it found, or a value as it was. */
export type Kept = KeptRecords | { value: StoredValue };

/**
 * A value of a formula as plain data, to be read again by a later command. People, files and records are kept by their
 * ids, and a row of line items by its own: what they hold is read when it is asked for. All that is written with an
 * `@` in FEEL is kept as that text.
 */
export type StoredValue =
  | null
  | boolean
  | string
  | { num: string }
  | { at: string }
  | { of: string; id: string }
  | { lines: string; row: string }
  | { list: readonly StoredValue[] }
  | { entries: readonly (readonly [string, StoredValue])[] };
