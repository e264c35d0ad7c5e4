import { files, getPool } from "@/db";
import { defineUseCase } from "../kernel/defineUseCase";
import { loadRequest } from "../requests/loadRequest";
import { inSight } from "./inSight";

/** A file of a request, with its place among the others. */
export interface PackedFile {
  id: string;
  /** With folders, each once, whatever is large or small in it: "Letters/offer (2).pdf". */
  path: string;
  size: number;
  /** When it came, in epoch milliseconds. */
  at: number;
}

/** What came with mails stands in a folder of its own. */
const LETTERS = "Letters";

/** All files of a request that whoever asks may open, the oldest first. */
export const requestFiles = defineUseCase(
  ["see request", "read file"],
  async (c, number: string): Promise<PackedFile[]> => {
    const loaded = await loadRequest(c, { number });
    const all = await files.ofRequest(getPool(), loaded.row.id);
    const seen = await inSight(
      c,
      loaded,
      all.map((f) => f.id),
    );
    const taken = new Set<string>();
    const out: PackedFile[] = [];
    for (const f of all) {
      if (!seen.has(f.id)) continue;
      const folder = f.message_id === null ? "" : `${LETTERS}/`;
      out.push({ id: f.id, path: freePath(folder + safely(f.name), taken), size: f.size, at: f.added_at });
    }
    return out;
  },
);

/** A name that every file system takes: no folders, no reserved characters or ends. */
const safely = (name: string): string =>
  name.replace(/[<>:"/\\|?*\u0000-\u001f]/g, "-").replace(/[. ]+$/, "") || "file";

/** The path, numbered where another has it already; file systems do not tell large and small letters apart. */
function freePath(path: string, taken: Set<string>): string {
  const [, stem = path, ending = ""] = /^(.*?)(\.[^./]{1,10})?$/.exec(path) ?? [];
  let free = path;
  for (let n = 2; taken.has(free.toLowerCase()); n++) free = `${stem} (${n})${ending}`;
  taken.add(free.toLowerCase());
  return free;
}
