import { sha256 } from "@noble/hashes/sha2";
import { bytesToHex, utf8ToBytes } from "@noble/hashes/utils";
import canonicalize from "canonicalize";
import type { AccessOf } from "./access";
import { isGroup, labelOf, walkFields, type Field, type FormData, type Stored } from "./field";
import { arrangedFields, type StepForm } from "./stepForm";

/** The file whose pages were signed, and at which step, in which round. */
export interface SignedDocument {
  file: string;
  step: string;
  scope: string | null;
  /** For whom whoever signed stood in; absent for nobody. */
  for?: string;
}

/** What is known of a signature: of exactly what it was given, so that a later change of that can be told. */
export interface Signed {
  /** Who signed; an account, whatever name stands there. */
  by: string;
  /** Epoch milliseconds. */
  at: number;
  /** The number of the event that tells of it. */
  seq: number;
  /** What the field held then: another value is another signature. */
  value: string;
  /** Ids of the fields and columns whoever signed was shown, in reading order. */
  fields: readonly string[];
  /** What of a document was signed with it, too; absent for none. */
  document?: SignedDocument;
  /** See `fingerprint`; empty where some of what was signed was blanked since, so that nothing can be compared. */
  hash: string;
}

/**
 * Ids of the fields and columns somebody is shown where they sign. Signatures are left out: of several people each signs the
 * same, whoever signed before or after them.
 * @param shown ids of fields that are shown as the form stands
 * @param signs whether a kind of field is a signature
 */
export function fieldsToSign(
  fields: readonly Field[],
  form: StepForm | undefined,
  access: AccessOf,
  shown: ReadonlySet<string>,
  signs: (kind: Field["kind"]) => boolean,
): string[] {
  const out: string[] = [];
  const take = (list: readonly Field[]) => {
    for (const f of list) {
      if (access(f.id) === "hide" || !shown.has(f.id)) continue;
      if (isGroup(f)) take(f.fields ?? []);
      else if (!signs(f.kind)) {
        const columns = f.kind === "lines" ? (f.fields ?? []) : [];
        out.push(f.id, ...columns.flatMap((c) => (access(c.id) === "hide" ? [] : [c.id])));
      }
    }
  };
  take(arrangedFields(fields, form));
  return out;
}

/**
 * What was signed, as one number: SHA-256 (FIPS 180-4), in hexadecimal, of the canonical JSON (RFC 8785) of ids, labels and
 * values of the fields shown, and of the release that says what they mean.
 * @param signed ids of fields and columns, as `fieldsToSign` gives them
 * @param release its id; empty where nothing is released, as for a sample
 */
export function fingerprint(
  fields: readonly Field[],
  data: FormData,
  signed: readonly string[],
  release: string,
): string {
  const byId = new Map<string, { field: Field; lines: Field | undefined }>();
  walkFields(fields, (field, parents) =>
    byId.set(field.id, { field, lines: parents.find((p) => p.kind === "lines") }),
  );
  const at = new Set(signed);
  const said = signed.flatMap((id) => {
    const is = byId.get(id);
    if (!is || is.lines) return [];
    const columns = is.field.kind === "lines" ? (is.field.fields ?? []).filter((c) => at.has(c.id)) : [];
    return [
      {
        id,
        label: labelOf(is.field),
        value: valueSigned(data[id], columns),
        ...(columns.length > 0 ? { columns: columns.map((c) => ({ id: c.id, label: labelOf(c) })) } : {}),
      },
    ];
  });
  return bytesToHex(sha256(utf8ToBytes(canonicalize({ fields: said, release })!)));
}

/** A value without columns that were not shown. What is empty is empty, however it is kept. */
function valueSigned(v: Stored | undefined, columns: readonly Field[]): unknown {
  if (!Array.isArray(v)) return v === undefined || v === "" ? null : v;
  return v.map((row) => [
    row["#"],
    ...columns.map((c) => (row[c.id] === undefined || row[c.id] === "" ? null : row[c.id])),
  ]);
}

/** Whether what was signed is as it was then; null where that cannot be told any more. */
export function asSigned(
  fields: readonly Field[],
  data: FormData,
  signed: Pick<Signed, "fields" | "hash">,
  release: string,
): boolean | null {
  if (signed.hash === "") return null;
  return fingerprint(fields, data, signed.fields, release) === signed.hash;
}

/** A signature as somebody may know of it. */
export interface SignatureShown {
  /** By name. */
  by: string;
  at: number;
  /** What the field held then. */
  value: string;
  hash: string;
  /** As `asSigned`. */
  same: boolean | null;
  /** What was changed since, by label, as far as its reader may see it; empty where it is as it was. */
  changed: string[];
  /** Something their reader may not see was changed since. */
  beyond: boolean;
}

/**
 * By field the signatures whose fields a person may see, and whether what was signed still stands.
 * @param changedAt by path the number of the event that changed it last
 * @param name what an account is called
 */
export function signaturesShown(
  fields: readonly Field[],
  state: {
    data: FormData;
    changedAt: Readonly<Record<string, number>>;
    signed?: Readonly<Record<string, Signed>> | undefined;
  },
  release: string,
  access: AccessOf,
  name: (account: string) => string,
): Record<string, SignatureShown> {
  const { signed = {}, data, changedAt } = state;
  const places = new Map<string, { path: string; label: string; hidden: boolean }>();
  if (Object.keys(signed).length > 0)
    walkFields(fields, (f, parents) => {
      const lines = parents.find((p) => p.kind === "lines");
      places.set(f.id, {
        path: lines ? `${lines.id}/${f.id}` : f.id,
        label: lines ? `${labelOf(lines)}: ${labelOf(f)}` : labelOf(f),
        hidden: [f, ...parents].some((x) => access(x.id) === "hide"),
      });
    });
  const shown = Object.entries(signed).flatMap(([id, s]): [string, SignatureShown][] => {
    const place = places.get(id);
    if (!place || place.hidden) return [];
    const same = asSigned(fields, data, s, release);
    const changed = same === false ? s.fields.flatMap((f) => places.get(f) ?? []) : [];
    const since = changed.filter((p) => (changedAt[p.path] ?? 0) > s.seq);
    return [
      [
        id,
        {
          by: name(s.by),
          at: s.at,
          value: s.value,
          hash: s.hash,
          same,
          changed: since.filter((p) => !p.hidden).map((p) => p.label),
          beyond: since.some((p) => p.hidden),
        },
      ],
    ];
  });
  return Object.fromEntries(shown);
}
