/** Where a process stands among the forms that can be asked for. */
export interface Listed {
  /** The heading it stands under. */
  under: string;
  /** Its place there; those without one stand behind the others, by name. */
  place?: number;
}
