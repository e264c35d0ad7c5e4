import { checkContents, clearFolder, filesTrouble, moveContents, readSettings, SYSTEM } from "@/services";
import { Trouble } from "./trouble";

const HELP = `Say what is to be done:
  npm run files -- folder      moves what is in files into the folder of FILES_FOLDER
  npm run files -- database    moves it from there into the database
  npm run files -- check       holds all of it against its fingerprints, and takes what belongs to nothing from the folder
People can work meanwhile. What is stopped goes on where it was.`;

const mb = (bytes: number): string => `${(bytes / 1_000_000).toFixed(1)} MB`;

/** Where files are kept, and whether they are what they were. */
export async function filesCommand(
  [what = ""]: readonly string[],
  say: (line: string) => void,
): Promise<void> {
  const read = readSettings(process.env);
  if (!read.ok) throw new Trouble(read.mistakes.join("\n"));
  switch (what) {
    case "folder":
    case "database": {
      if (read.settings.filesFolder === "")
        throw new Trouble(
          "FILES_FOLDER is not set. It names the folder, for example FILES_FOLDER=/var/lib/cobble/files",
        );
      const trouble = await filesTrouble();
      if (trouble !== null) throw new Trouble(trouble);
      const { moved, bytes, damaged } = await moveContents(SYSTEM, what);
      say(`${moved} moved, ${mb(bytes)}`);
      if (what === "database")
        say(
          "What is added from now on goes into the folder still, until FILES_FOLDER is taken away and all is started again.",
        );
      sayDamaged(damaged, "were left where they are: they are not what they were");
      return;
    }
    case "check": {
      const { contents, bytes, damaged } = await checkContents(SYSTEM);
      const cleared = await clearFolder(SYSTEM);
      say(`${contents} held against their fingerprints, ${mb(bytes)}`);
      if (cleared > 0) say(`${cleared} in the folder belonged to nothing and were taken away`);
      sayDamaged(damaged, "are not what they were, or not there");
      return;
    }
    default:
      throw new Trouble(HELP);
  }
}

function sayDamaged(damaged: readonly string[], how: string): void {
  if (damaged.length > 0)
    throw new Trouble(
      `${damaged.length} ${how}. Restore them from a backup. By fingerprint: ${damaged.slice(0, 20).join(", ")}`,
    );
}
