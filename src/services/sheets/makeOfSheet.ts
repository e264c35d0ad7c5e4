import type { RegisterShape } from "@/core/form";
import { guessDates, guessDecimal, guessKind, type GuessedKind, type SheetPlan } from "@/core/sheets";
import { getPool, inTransaction, sheetImports, type Db } from "@/db";
import { defineUseCase, type Call } from "../kernel/defineUseCase";
import { Failed, type Failure } from "../kernel/failure";
import { loadDirectory } from "../kernel/directory";
import { makeRegisterIn } from "../registers/changeRegister";
import { rightsToRecords } from "../registers/recordForm";
import { guessPlan, planMistake } from "./guessPlan";

/** By so many rows it is guessed what columns hold. */
const LOOKED_AT = 5000;
const EXAMPLES = 3;

export interface NewSheetPage {
  sheet: sheetImports.SheetImportRow;
  /** By the sheet's columns, what they seem to hold, and some of it. */
  guesses: (GuessedKind & { examples: string[] })[];
}

const MAKES: Failure = { code: "not-allowed", data: { action: "make registers" } };

async function ownNewSheet(c: Call, db: Db, id: string) {
  c.must({ action: "make register" }, MAKES);
  const i = /^\d{1,9}$/.test(id) ? await sheetImports.importOf(db, id) : null;
  if (!i || i.person_id !== c.actor.id) throw new Failed({ code: "not-found", data: { what: "sheet", id } });
  return i;
}

/** A sheet of which a register is to be made, with what its columns seem to be. */
export const newSheetPage = defineUseCase(["make register"], async (c, id: string): Promise<NewSheetPage> => {
  const db = getPool();
  const sheet = await ownNewSheet(c, db, id);
  const rows = await sheetImports.rowsAfter(db, id, 0, LOOKED_AT);
  const cells = sheet.headings.map((_, n) => rows.map((r) => r.cells[n] ?? { text: "" }));
  const all = cells.flat();
  const reading = { dates: guessDates(all), decimal: guessDecimal(all) };
  return {
    sheet,
    guesses: cells.map((column, n) => ({
      ...guessKind(sheet.headings[n]!, column, reading),
      examples: column
        .map((x) => x.text.trim())
        .filter(Boolean)
        .slice(0, EXAMPLES),
    })),
  };
});

/** Makes the register, and has the sheet tried as its first records. @param matches by the sheet's columns */
export const makeOfSheet = defineUseCase(
  ["make register"],
  (c, id: string, shape: RegisterShape, matches: SheetPlan["matches"]): Promise<{ key: string }> =>
    inTransaction(async (db) => {
      const i = await ownNewSheet(c, db, id);
      const { key } = await makeRegisterIn(db, c, shape);
      const d = await loadDirectory(db);
      const may = rightsToRecords(d, c, key);
      const rows = await sheetImports.rowsAfter(db, id, 0, LOOKED_AT);
      const guessed = guessPlan(shape, may, i.headings, rows, matches);
      const message = planMistake(guessed, i.headings, shape, may);
      const moved = "This sheet has gone on meanwhile, on another page. Look at it again.";
      const set = { register_key: key, plan: guessed, status: "trying" } as const;
      if (message !== null || !(await sheetImports.changeImport(db, id, ["naming"], null, set)))
        throw new Failed({ code: "invalid", data: { path: "", message: message ?? moved } });
      await sheetImports.queueImport(db, id);
      return { key };
    }),
);
