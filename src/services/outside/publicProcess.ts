import type { OfOpen } from "@/core/kinds";
import { processes, type Db, type ReleaseRow } from "@/db";
import type { Call } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { openOf } from "./visitor";

/** The live release of a process that opens a form to people outside. @throws Failed as where there is no such process */
export async function publicProcess(
  c: Call,
  db: Db,
  key: string,
  lock = false,
): Promise<{ row: ReleaseRow; open: OfOpen }> {
  const row = await processes.liveRelease(db, key, lock);
  const found = row && openOf(row.released.starts);
  c.must(
    { action: "ask from outside", open: found !== null },
    { code: "not-found", data: { what: "form", id: key } },
  );
  if (!row || !found) throw new Failed({ code: "not-found", data: { what: "form", id: key } });
  return { row, open: found.open };
}
