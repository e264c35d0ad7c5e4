import { notTaken, speak, type Carried, type OutletServer, type Taken } from "./outletServer";

const WHAT = "The print room";
const PDF = "application/pdf";

/**
 * Has a PDF printed. By the same key (Idempotency-Key) it is the same job, however often it is asked for.
 * @returns the number of the job
 */
export async function print(server: OutletServer, paper: Carried, copies: number): Promise<Taken> {
  if (paper.mediaType !== PDF)
    return { came: "refused", why: `The print room takes PDFs; “${paper.name}” is none. Draw it up as PDF.` };
  const r = await speak(server, WHAT, "POST", `jobs?copies=${copies}`, {
    headers: {
      "content-type": PDF,
      "content-length": String(paper.size),
      "idempotency-key": paper.key,
      // RFC 8187, for names beyond ASCII.
      "content-disposition": `attachment; filename*=UTF-8''${encodeURIComponent(paper.name)}`,
    },
    body: paper.parts(),
  });
  if ("why" in r) return { came: "later", why: r.why };
  if (r.status !== 200 && r.status !== 201) return notTaken(r, WHAT);
  const job = r.headers.get("location")?.split("/").at(-1)?.slice(0, 60);
  return job ? { came: "taken", as: job } : { came: "later", why: `${WHAT} did not say which job it is.` };
}

/** Whether it lets Cobble Step in. @returns why not; null where it does */
export async function tryPrintRoom(server: OutletServer): Promise<string | null> {
  const r = await speak(server, WHAT, "GET", "jobs");
  if ("why" in r) return r.why;
  const t = r.status === 200 ? null : notTaken(r, WHAT);
  return t && "why" in t ? t.why : null;
}
