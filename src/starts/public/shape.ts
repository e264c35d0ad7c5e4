import type { AfterSending } from "@/core/form";

/** Somebody fills in the form on a page of its own, without signing in. */
export interface PublicStart {
  id: string;
  kind: "public";
  /** Whose form it is, as it stands over the page. */
  letterhead: string;
  /** What is read before the form; marked up as `prose` says. */
  greeting?: string;
  /** What is asked of whoever sends it: nothing, a name and an address, or an address they show to be theirs by a code. */
  asks: "nothing" | "address" | "confirmed";
  /** Files can be added. */
  files?: true;
  /** Those who work here are told by name. */
  staff?: true;
  /** What they sent is read again on the page where they follow it. */
  values?: true;
  /** What comes once it is sent. */
  sent?: AfterSending;
}
