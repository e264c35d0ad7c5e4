import { notTaken, speak, type Carried, type OutletServer, type Taken } from "./outletServer";

const WHAT = "The file shelf";
/** Files of one name in one folder. */
const MOST_NAMESAKES = 50;
const DEEPEST = 10;

/**
 * Puts a file on a shelf spoken to by WebDAV (RFC 4918), in folders that are made where they are not there. Nothing that
 * is there is written over: another file of the name gets a number, and the same one is there already.
 * @param folder parted by strokes; empty for none
 * @returns its path
 */
export async function putOnShelf(server: OutletServer, file: Carried, folder: string): Promise<Taken> {
  const folders = folder
    .split(/[\\/]/)
    .map(tidy)
    .filter((x) => x !== "");
  if (folders.length > DEEPEST)
    return { came: "refused", why: `Folders may be ${DEEPEST} deep; “${folder}” is deeper.` };
  for (let i = 1; i <= folders.length; i++) {
    const r = await speak(server, WHAT, "MKCOL", `${pathOf(folders.slice(0, i))}/`);
    if ("why" in r) return { came: "later", why: r.why };
    // 405: it is there (RFC 4918, 9.3.1).
    if (r.status !== 201 && r.status !== 405) return notTaken(r, WHAT);
  }
  const [, stem = "file", ending = ""] = /^(.*?)(\.[^.]{1,10})?$/.exec(tidy(file.name) || "file") ?? [];
  for (let n = 1; n <= MOST_NAMESAKES; n++) {
    const path = pathOf([...folders, n === 1 ? `${stem}${ending}` : `${stem} (${n})${ending}`]);
    const r = await speak(server, WHAT, "PUT", path, {
      headers: { "content-type": file.mediaType, "if-none-match": "*", "content-length": String(file.size) },
      body: file.parts(),
    });
    if ("why" in r) return { came: "later", why: r.why };
    if (r.status === 201 || r.status === 204) return { came: "taken", as: decodeURIComponent(path) };
    if (r.status !== 412) return notTaken(r, WHAT);
    // One that was put there by a try before, of which nobody heard, is known by what is in it.
    const there = await speak(server, WHAT, "GET", path);
    if ("why" in there) return { came: "later", why: there.why };
    if (there.status >= 500) return notTaken(there, WHAT);
    if (there.status === 200 && there.sha256 === file.sha256)
      return { came: "taken", as: decodeURIComponent(path) };
  }
  return {
    came: "refused",
    why: `There are ${MOST_NAMESAKES} files called “${file.name}” in that folder already.`,
  };
}

/** Whether it lets Cobble Step in. @returns why not; null where it does */
export async function tryShelf(server: OutletServer): Promise<string | null> {
  const r = await speak(server, WHAT, "PROPFIND", "", { headers: { depth: "0" } });
  if ("why" in r) return r.why;
  const t = r.status === 207 ? null : notTaken(r, WHAT);
  return t && "why" in t ? t.why : null;
}

const pathOf = (parts: readonly string[]): string => parts.map(encodeURIComponent).join("/");
/** A name that every file system takes, and that leads nowhere else. */
const tidy = (name: string): string =>
  name
    .replace(/[<>:"|?*\\/\u0000-\u001f]/g, "-")
    .trim()
    .replace(/^\.+|[. ]+$/g, "");
