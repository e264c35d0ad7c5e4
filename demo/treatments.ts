import { registers, getPool } from "@/db";
import { actorOf, lookDates, saveRecord, startFromRecords, SYSTEM, type Actor } from "@/services";
import { SHAPES } from "./registers/shapes";

/** Objects that a conservator brings into treatment by hand; what that starts is started as ever. */
const MOST = 4;

/** What is noted on the treatments that are opened, on an object and on a loan; whether it is done. */
const NOTES: readonly { on: string; nth: number; text: string; kind: string; by: string; done: boolean }[] = [
  {
    on: "treatments",
    nth: 0,
    text: "Photograph before cleaning",
    kind: "to do",
    by: "sorcha.lind",
    done: true,
  },
  {
    on: "treatments",
    nth: 0,
    text: "Order tissue for facing",
    kind: "to do",
    by: "sorcha.lind",
    done: false,
  },
  {
    on: "treatments",
    nth: 1,
    text: "Old repair at the rim is loose",
    kind: "seen",
    by: "sorcha.lind",
    done: false,
  },
  {
    on: "objects",
    nth: 0,
    text: "Lift by the base, never by the handle",
    kind: "handling",
    by: "maeve.dunlea",
    done: false,
  },
  {
    on: "loans",
    nth: 0,
    text: "The case came back with one hinge bent",
    kind: "seen",
    by: "maeve.dunlea",
    done: false,
  },
];

/** Changes a few records as their people would, and looks at the dates of today, so that what begins so has begun. */
export async function bringIntoTreatment(): Promise<void> {
  const db = getPool();
  const objects = SHAPES.find((s) => s.key === "objects")!;
  const sorcha = (await actorOf(db, "sorcha.lind"))!;
  const worn = await registers.recordsWith(db, objects, "condition_grade", "D", 50);
  for (const { id } of worn.filter((r) => r["status"] === "in store").slice(0, MOST)) {
    const kept = await saveRecord(sorcha, "objects", id, null, { status: "in treatment" });
    if (!kept.ok) throw new Error(`object ${id}: ${JSON.stringify(kept.failure)}`);
  }
  await lookDates(SYSTEM);
  await startFromRecords(SYSTEM);
  await leaveCareNotes(sorcha);
  await startFromRecords(SYSTEM);
}

/** What is noted is done afterwards, so that it becomes done as it would for whoever ticks it off. */
async function leaveCareNotes(by: Actor): Promise<void> {
  for (const { on, nth, done, ...values } of NOTES) {
    const ids = await registers.idsAfter(getPool(), on, "0", nth + 1);
    const id = ids[nth];
    if (id === undefined) continue;
    const kept = await saveRecord(by, "care_notes", null, null, {
      ...values,
      about: `${on}/${id}`,
      done: false,
    });
    if (!kept.ok) throw new Error(`care note: ${JSON.stringify(kept.failure)}`);
    if (!done) continue;
    const ticked = await saveRecord(by, "care_notes", kept.value.id, null, { done: true });
    if (!ticked.ok) throw new Error(`care note: ${JSON.stringify(ticked.failure)}`);
  }
}
