import { contents, getPool } from "@/db";
import { folderNow } from "./folderNow";

/** Why files could not be kept or opened as this is set up, in a sentence; null where they can. */
export async function filesTrouble(): Promise<string | null> {
  const folder = folderNow();
  if (folder) return folder.trouble();
  const [there] = await contents.contentsAfter(getPool(), "", 1, "folder");
  return there
    ? "Files are kept in a folder, and FILES_FOLDER does not say which. Set it as it was, or move them: npm run files -- database"
    : null;
}
