"use client";
import type { FactsData, Field, FieldKind, Stored } from "@/core/form";
import { FIELD_INPUTS } from "@/fields/inputs";
import { FileList } from "./FileList";
import type { InputContext } from "./inputContext";

/** A stored value for reading: text, or links where it is files. */
export function ShownValue({
  field,
  value,
  facts,
}: {
  field: Field;
  value: Stored | undefined;
  facts: FactsData;
}) {
  const files =
    typeof value === "string" && value !== "" ? FIELD_INPUTS[field.kind].files?.(value) : undefined;
  if (files) return <FileList ids={files} facts={facts} />;
  const text = shownValue(field, value, facts);
  if (!text) return <span className="text-faint">–</span>;
  return <Leading kind={field.kind} value={value} text={text} />;
}

/** A text, and the way to where its value leads: a page on the web, a mail to be written. */
export function Leading({ kind, value, text }: { kind: FieldKind; value: unknown; text: string }) {
  const href = typeof value === "string" ? FIELD_INPUTS[kind].href?.(value) : null;
  if (!href) return <>{text}</>;
  // What is ours is gone to, or saved, from here.
  if (href.startsWith("/"))
    return (
      <a className="link break-all" href={href}>
        {text}
      </a>
    );
  return (
    <a className="link break-all" href={href} target="_blank" rel="noopener noreferrer">
      {text}
    </a>
  );
}

/** A stored value as text for reading. */
export function shownValue(f: Field, v: Stored | undefined, facts: FactsData): string {
  if (v === null || v === undefined || v === "" || Array.isArray(v)) return "";
  if (typeof v === "boolean") return v ? "Yes" : "No";
  return FIELD_INPUTS[f.kind].shown(v, f, facts);
}

interface Props {
  field: Field;
  id: string;
  value: Stored | undefined;
  onChange(v: string | boolean | null): void;
  context: InputContext;
  invalid: boolean;
  describedBy?: string;
  /** Inside a table of lines: no frame until pointed at. */
  compact?: boolean;
  label: string;
}

/** The control for one field by its kind. */
export function FieldInput({ value, ...rest }: Props) {
  const { Input } = FIELD_INPUTS[rest.field.kind];
  return <Input {...rest} value={Array.isArray(value) ? null : (value ?? null)} />;
}
