import {
  contents,
  databaseSize,
  fileSizes,
  otherSizes,
  searching,
  type ContentPlace,
  type FileSizesRow,
} from "@/db";
import { defineView } from "../kernel/defineUseCase";
import type { Directory } from "../kernel/directory";

/** What files come to of one thing. */
export interface KeptFilesRow {
  /** Tells it from the others. */
  key: string;
  of: string;
  files: number;
  bytes: number;
}
export interface KeptFiles {
  /** The most first. */
  rows: KeptFilesRow[];
  files: number;
  bytes: number;
  /** Bytes of what is in files of requests, records and mails, each once however many are alike, by where they are. */
  once: Record<ContentPlace, number>;
  /** Bytes of the whole database, with its indexes. */
  database: number;
}

const OTHERS = { templates: "Templates of documents", pictures: "Pictures of texts" } as const;

/** What is kept in files and where it belongs, for those with the rights of the office; null for others. */
export const keptFiles = defineView(["see sizes"], async (c): Promise<KeptFiles | null> => {
  const d = await c.directory();
  if (!c.may({ action: "see sizes" })) return null;
  const { own, others, kept, database } = await searching(async (db) => ({
    own: await fileSizes(db),
    others: await otherSizes(db),
    kept: await contents.contentSizes(db),
    database: await databaseSize(db),
  }));
  const rows: KeptFilesRow[] = [
    ...own.map((r) => ({ key: `${r.of} ${r.key}`, of: nameOf(d, r), files: r.files, bytes: r.bytes })),
    ...others.map((r) => ({ key: r.of, of: OTHERS[r.of], files: r.files, bytes: r.bytes })),
  ].sort((a, b) => b.bytes - a.bytes);
  const sum = (of: (r: KeptFilesRow) => number) => rows.reduce((n, r) => n + of(r), 0);
  const at = (place: ContentPlace) => kept.find((k) => k.place === place)?.bytes ?? 0;
  const once = { database: at("database"), folder: at("folder") };
  return { rows, files: sum((r) => r.files), bytes: sum((r) => r.bytes), once, database };
});

function nameOf(d: Directory, { of, key }: FileSizesRow): string {
  switch (of) {
    case "process":
      // One that takes no requests any more is told by its key.
      return `Requests of ${d.offered.find((p) => p.process === key)?.name ?? key}`;
    case "register":
      return `Records of ${d.registers[key]?.name ?? key}`;
    case "nobody":
      return "Not sent yet, or with mails that started nothing";
  }
}
