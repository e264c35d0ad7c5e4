import { files, type Db } from "@/db";
import { Failed } from "../kernel/failure";

/**
 * Makes the files of a form that was sent part of its request, in the transaction that keeps it. A file that
 * went with another request in the meantime is refused, because nobody here could open it.
 */
export async function attachFiles(
  db: Db,
  ids: readonly string[],
  by: string,
  request: string,
): Promise<void> {
  if (ids.length === 0) return;
  await files.attachFiles(db, ids, by, request);
  const gone = (await files.filesByIds(db, ids)).filter((f) => f.request_id !== request);
  if (gone.length > 0)
    throw new Failed({
      code: "invalid",
      data: {
        path: "",
        message: `"${gone[0]!.name}" is kept somewhere else already. Add it here once more.`,
      },
    });
}
