import type { AfterSending, StartAudience } from "@/core/form";

/** Somebody signed in fills in the form and sends it. */
export interface FormStart {
  id: string;
  kind: "form";
  /** Who may ask. */
  who: StartAudience;
  /** What comes once it is sent. */
  sent?: AfterSending;
}
