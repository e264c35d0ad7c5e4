/** What comes once somebody has sent a form; where nothing is said they see their request. */
export interface AfterSending {
  /** What they read: a text with {values}. */
  says?: string;
  /** Where they may go on. */
  leads?: LeadsOn;
}
export type LeadsOn =
  /** Another form, by the key of its process, and what is filled in there: by the name of a field a formula. */
  | { to: "form"; process: string; values: { name: string; value: string }[] }
  /** A page on the web: an address whose values are written so that they cannot lead anywhere else. */
  | { to: "address"; address: string };

/** The part of an address by which it is told whose page it is: it is written out, so that no value decides it. */
const PLACE = /^https?:\/\/[a-z0-9](?:[a-z0-9.-]*[a-z0-9])?(?::\d{1,5})?(?:[/?#]|$)/i;

/** Whether what stands before the first value of an address says where it leads. */
export const saysItsPlace = (beforeValues: string, hasValues: boolean): boolean => {
  const found = PLACE.exec(beforeValues);
  return found !== null && (!hasValues || /[/?#]$/.test(found[0]));
};
