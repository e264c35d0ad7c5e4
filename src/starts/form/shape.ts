/** Somebody signed in fills in the form and sends it. */
export interface FormStart {
  id: string;
  kind: "form";
  /** Who may ask: everybody signed in, or the members of a group or department. */
  who: { by: "everybody" } | { by: "group"; group: string } | { by: "department"; department: string };
}
