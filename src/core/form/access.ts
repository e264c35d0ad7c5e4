export type Access = "edit" | "see" | "hide";
/** What the person at hand may do with each field. */
export type AccessOf = (fieldId: string) => Access;
