import { recordTitle, type RegisterShape, type StoredRecord } from "@/core/form";
import { getPool, registers } from "@/db";
import { defineUseCase } from "../kernel/defineUseCase";
import { loadDirectory, personName } from "../kernel/directory";
import { Failed } from "../kernel/failure";
import { registerFor } from "../kernel/registersSeen";
import { noRegister, rightsToRecords } from "./recordForm";

/** A record that was removed, as whoever looks sees what it held. */
export interface RemovedRecord {
  /** Of the change that removed it, by which it is put back. */
  change: string;
  title: string;
  at: number;
  by: string | null;
  request: string | null;
}
/** Removed ones that are listed, the last first. */
const SHOWN = 200;

/** The records that were removed from a register and can be put back, for whoever may add or remove some. */
export const removedRecords = defineUseCase(
  ["write records"],
  async (c, key: string): Promise<{ shape: RegisterShape; mayAdd: boolean; removed: RemovedRecord[] }> => {
    const db = getPool();
    const d = await loadDirectory(db);
    const shape = registerFor(d, c.actor, key);
    const may = rightsToRecords(d, c, key);
    const mayLook = shape !== undefined && (may.add || may.remove);
    c.must({ action: "write records", may: mayLook }, noRegister(key));
    if (!shape) throw new Failed(noRegister(key));
    const rows = await registers.removedFrom(db, key, SHOWN);
    return {
      shape,
      mayAdd: may.add && may.change,
      removed: rows.map((r) => ({
        change: r.id,
        title: recordTitle(shape, { ...(r.before as StoredRecord), id: r.record_id }),
        at: r.at,
        by: r.by_person && personName(d, r.by_person),
        request: r.request_number,
      })),
    };
  },
);
