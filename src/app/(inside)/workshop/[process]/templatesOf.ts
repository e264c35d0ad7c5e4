import type { FirstOf } from "@/core/document";
import type { DraftKeeper } from "@/workshop";
import {
  keepTemplateAction,
  makeFirstTemplateAction,
  takeTemplateAction,
  templateVersionsAction,
} from "../../../actions/workshop";

const LOST = {
  ok: false,
  code: "unavailable",
  sentence: "The server could not be reached; try again in a moment.",
} as const;

/** Where the templates of a process are kept. */
export function templatesOf(process: string): DraftKeeper["documents"] {
  const at = (document: string) => `/api/workshop/${process}/templates/${document}`;
  const pages = (document: string, sample: string, as: string) =>
    `${at(document)}/pages?sample=${encodeURIComponent(sample)}&as=${as}`;
  return {
    bring: (document, file) =>
      answered(
        fetch(`${at(document)}?name=${encodeURIComponent(file.name)}`, { method: "POST", body: file }),
        (r) => r.json() as Promise<never>,
      ),
    first: (document) => makeFirstTemplateAction(process, document),
    keepForAll: (document) => keepTemplateAction(process, document),
    take: (document, kept) => takeTemplateAction(process, document, kept),
    versions: (document) => templateVersionsAction(process, document),
    pages: (document, sample) =>
      answered(fetch(pages(document, sample, "pdf")), async (r) => {
        const said = (await r.json()) as { pages: string; first: readonly (FirstOf | null)[] };
        const bytes = Uint8Array.from(atob(said.pages), (x) => x.charCodeAt(0));
        return { pages: bytes.buffer, first: said.first };
      }),
    fileAt: at,
    docxAt: (document, sample) => pages(document, sample, "docx"),
  };
}

async function answered<T>(call: Promise<Response>, read: (r: Response) => Promise<T>) {
  try {
    const r = await call;
    if (r.ok) return { ok: true as const, value: await read(r) };
    const { sentence } = (await r.json()) as { sentence: string };
    return { ok: false as const, code: "invalid" as const, sentence };
  } catch {
    return LOST;
  }
}
