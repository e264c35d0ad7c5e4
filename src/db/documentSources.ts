import type { Filled, TreeTag } from "@/core/document";
import type { Db } from "./pool";

/** What a document was made of. */
export interface DocumentSource {
  template: { sha256: string; name: string; tags: readonly TreeTag[] };
  /** What its files are called, without their ending. */
  called: string;
  filled: readonly Filled[];
  /** Of its PDF. */
  pages: number | null;
  /** Who signed it, the first one first; empty of one that nobody has. */
  signed: readonly SignedBy[];
}
/** A signature as the closing page tells it: as things were called then. */
export interface SignedBy {
  /** Id of its file. */
  picture: string;
  lines: readonly string[];
}

/** @param place the step that drew it up, in its round and procedure; null of a signed one */
export const keepSource = (
  db: Db,
  s: { file: string; request: string; place: string | null; version: number; made: DocumentSource },
) =>
  db.query(
    `
      insert into document_source (file_id, request_id, place, version, made) values ($1, $2, $3, $4, $5)
      on conflict do nothing
    `,
    [s.file, s.request, s.place, s.version, JSON.stringify(s.made)],
  );

/** What a file of a request was made of; null for one that was not made, or is gone. */
export const sourceOf = async (db: Db, request: string, file: string): Promise<DocumentSource | null> =>
  (await db.query("select made from document_source where file_id = $1 and request_id = $2", [file, request]))
    .rows[0]?.made ?? null;

/** How often something was drawn up at one place of a request. */
export const versionsAt = async (db: Db, request: string, place: string): Promise<number> =>
  (
    await db.query(
      "select coalesce(max(version), 0) as n from document_source where request_id = $1 and place = $2",
      [request, place],
    )
  ).rows[0]!.n;
