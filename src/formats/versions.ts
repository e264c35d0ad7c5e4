type Json = Readonly<Record<string, unknown>>;

/** Brings a document from one version to the next; pure, and never changed once it has shipped. */
export type Upgrader = (old: Json) => Json;

/**
 * A kind of stored document with all its versions. `upgraders[0]` brings version 1 to version 2, and so on; what is
 * stored is brought up to date whenever it is read, so that everything else knows the newest version only.
 */
export interface Format {
  /** "cobble-step/process": the tag without its version. */
  name: string;
  newest: number;
  upgraders: readonly Upgrader[];
}

/** @throws for a document of a version this program does not know: it must not be read as if it did. */
export function upgraded(format: Format, document: Json, version: number): Json {
  if (!Number.isInteger(version) || version < 1 || version > format.newest)
    throw new Error(`there is no ${format.name}@${version}; the newest known is ${format.newest}`);
  let now = document;
  for (let v = version; v < format.newest; v++) now = format.upgraders[v - 1]!(now);
  return now;
}

/** The version a document says in its tag; `untagged` where it has none. */
export function versionOf(format: Format, document: Json, untagged?: number): number {
  const tag = document["format"];
  if (tag === undefined && untagged !== undefined) return untagged;
  const m = typeof tag === "string" ? /^(.+)@(\d{1,6})$/.exec(tag) : null;
  if (!m || m[1] !== format.name) throw new Error(`"${String(tag)}" is not a ${format.name}`);
  return Number(m[2]);
}
