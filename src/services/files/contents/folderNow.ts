import { ContentFolder } from "@/outside/folder";
import { settingsNow } from "../../kernel/settings";

let folder: ContentFolder | null = null;

/** The folder in which files are kept; null where they are kept in the database. */
export function folderNow(): ContentFolder | null {
  const { filesFolder } = settingsNow();
  if (filesFolder === "") return null;
  return (folder ??= new ContentFolder(filesFolder));
}

/** The same for what is known to be there. */
export function mustHaveFolder(): ContentFolder {
  const there = folderNow();
  if (!there) throw new Error("files are kept in a folder, and FILES_FOLDER does not say which");
  return there;
}
