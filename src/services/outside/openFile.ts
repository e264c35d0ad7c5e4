import { walkFields, type Field, type FileFacts } from "@/core/form";
import { outsiderOf } from "@/core/engine";
import type { OfOpen } from "@/core/kinds";
import { KINDS } from "@/kinds";
import { inTransaction, outside } from "@/db";
import type { Spooled } from "../files/contents/spool";
import { keepLoose } from "../files/files";
import { defineUseCase } from "../kernel/defineUseCase";
import { Failed } from "../kernel/failure";
import { loadRequest } from "../requests/loadRequest";
import { publicProcess } from "./publicProcess";
import { mustHaveRoom } from "./outsidePace";
import { openOf } from "./visitor";

/** MB of the files of one form that is not sent; what is not sent within a day is removed. */
const MOST_MB = 100;
const NO_FILES = new Failed({
  code: "invalid",
  data: { path: "", message: "Files are not taken here. Say in words what stands in it." },
});

/** Bytes of a signature's picture, where no other files are taken. */
const MOST_SIGNATURE = 1_000_000;

/** Whether a file may come to a form: any where files are taken, else the picture of a signature. */
function mustTake(
  fields: readonly Field[],
  open: Pick<OfOpen, "files"> | undefined,
  { size }: Spooled,
): void {
  if (open?.files) return;
  let signs = false;
  walkFields(fields, (f) => void (signs ||= KINDS.fields[f.kind].signs === true));
  if (!signs || size > MOST_SIGNATURE) throw NO_FILES;
}

/** Takes in a file that somebody outside adds to a public form, or to what they were asked to change. */
export const addOpenFile = defineUseCase(
  ["ask from outside", "see request"],
  (c, to: { process: string } | { number: string }, name: string, contents: Spooled): Promise<FileFacts> =>
    inTransaction(async (db) => {
      if ("process" in to) {
        const { row, open } = await publicProcess(c, db, to.process);
        mustTake(row.released.fields, open, contents);
        await mustHaveRoom(db, "file", to.process, contents.size);
      } else {
        const { row, release } = await loadRequest(c, { number: to.number });
        // Whoever is asked at a step brings what it takes: its owner has opened the fields.
        const asked = outsiderOf(row.state, c.actor.id) !== null;
        const open = asked ? { files: true } : openOf(release.definition.starts)?.open;
        mustTake(release.definition.fields, open, contents);
        await mustHaveRoom(db, "file", row.process_key, contents.size);
      }
      await outside.insertVisitor(db, c.actor.id);
      return keepLoose(db, c.actor.id, { name, contents, most: MOST_MB });
    }),
);
