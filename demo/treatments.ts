import { registers, getPool } from "@/db";
import { actorOf, lookDates, saveRecord, startFromRecords, SYSTEM } from "@/services";
import { SHAPES } from "./registers/shapes";

/** Objects that a conservator brings into treatment by hand; what that starts is started as ever. */
const MOST = 4;

/** Changes a few records as their people would, and looks at the dates of today, so that what begins so has begun. */
export async function bringIntoTreatment(): Promise<void> {
  const db = getPool();
  const objects = SHAPES.find((s) => s.key === "objects")!;
  const sorcha = await actorOf(db, "sorcha.lind");
  const worn = await registers.recordsWith(db, objects, "condition_grade", "D", 50);
  for (const { id } of worn.filter((r) => r["status"] === "in store").slice(0, MOST)) {
    const kept = await saveRecord(sorcha!, "objects", id, null, { status: "in treatment" });
    if (!kept.ok) throw new Error(`object ${id}: ${JSON.stringify(kept.failure)}`);
  }
  await lookDates(SYSTEM);
  await startFromRecords(SYSTEM);
}
