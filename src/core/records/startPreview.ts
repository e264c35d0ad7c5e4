import type { FactsData, FormData } from "../form";

/** Days of which dates that come near are told before a start is released. */
export const DAYS_AHEAD = 30;

/** One of today's records, and what the request it starts would begin with. */
export interface StartingRecord {
  id: string;
  title: string;
  /** The day on which its date comes near; null where it starts by no date. */
  day: string | null;
  /** Null where what is filled in cannot be told. */
  begins: FormData | null;
}
/** Which of today's records a start of a draft would take; or why that cannot be told. */
export type StartPreview =
  | { ok: false; why: string }
  | {
      ok: true;
      /** `holds`: they meet the condition; `offered`: it can be pressed on them; `near`: their date comes near; `each`: each starts one on its days. */
      says: "holds" | "offered" | "near" | "each";
      one: string;
      register: string;
      count: number;
      /** There are others that were not counted. */
      more: boolean;
      first: StartingRecord[];
      /** Of `near`: how many the first look takes, of all that come near within the days ahead. */
      firstLook: number;
      /** Of how many it could not be told, and why for one of them. */
      unclear: { count: number; why: string } | null;
      /** The records that what they begin with points at, by register. */
      records: FactsData["records"];
    };
