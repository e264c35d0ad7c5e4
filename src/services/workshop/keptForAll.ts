import { processes, type Db } from "@/db";
import type { Call } from "../kernel/defineUseCase";
import { loadDirectory, personName } from "../kernel/directory";

/** A letter or a template kept for all processes, with who has taken it. */
export interface KeptForAll {
  id: string;
  name: string;
  version: number;
  /** The process it is from, by name; null where that is gone. */
  from: string | null;
  by: string | null;
  at: number;
  taken: { key: string; name: string; version: number }[];
}

interface Row {
  id: string;
  name: string;
  version: number;
  process_key: string | null;
  by_person: string | null;
  at: number;
}

/** What is kept, with names of people and processes. @param taken by which process's draft, each told by `of` */
export async function keptForAll(
  db: Db,
  rows: readonly Row[],
  taken: readonly { of: string; version: number; key: string; name: string }[],
): Promise<KeptForAll[]> {
  const d = await loadDirectory(db);
  const names = new Map((await processes.namesOf(db)).map((p) => [p.key, p.name]));
  return rows.map((k) => ({
    id: k.id,
    name: k.name,
    version: k.version,
    from: k.process_key && (names.get(k.process_key) ?? k.process_key),
    by: k.by_person && personName(d, k.by_person),
    at: k.at,
    taken: taken.filter((t) => t.of === k.id).map(({ key, name, version }) => ({ key, name, version })),
  }));
}

/**
 * The next version of what another process keeps is for the office.
 * @param of what is kept for all; null for what is not yet
 */
export function mustKeepNext(c: Call, process: string, of: Pick<Row, "name" | "process_key"> | null): void {
  if (of && of.process_key !== process)
    c.must(
      { action: "keep people" },
      {
        code: "not-allowed",
        data: {
          action: `change “${of.name}” for all; that may who designs the process it is from, and the office`,
        },
      },
    );
}
