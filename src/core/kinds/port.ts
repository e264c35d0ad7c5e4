import type { FieldKind } from "@/fields/shapes";

/** A field of a procedure, as far as its callers know it. */
export interface Port {
  /** The field's. */
  id: string;
  name: string;
  kind: FieldKind;
  register?: string;
  registers?: string[];
  needed?: true;
  /** Of line items: what their rows hold. */
  columns?: Port[];
}
