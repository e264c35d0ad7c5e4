import { failureStatus, previewDocument, sentenceOf } from "@/services";
import { currentActor, handedFile } from "@/web";

export const dynamic = "force-dynamic";

interface Props {
  params: Promise<{ process: string; document: string }>;
}

/** A template of the draft as the finished document of a sample: its pages as a PDF with what each tag came to, or as DOCX. */
export async function GET(request: Request, { params }: Props): Promise<Response> {
  const actor = await currentActor();
  if (!actor) return Response.json({ sentence: "You are signed out. Sign in again." }, { status: 401 });
  const { process, document } = await params;
  const asked = new URL(request.url).searchParams;
  const as = asked.get("as") === "docx" ? "docx" : "pdf";
  const made = await previewDocument(actor, process, document, asked.get("sample") ?? "", as);
  if (!made.ok)
    return Response.json(
      { sentence: await sentenceOf(made.failure) },
      { status: failureStatus(made.failure) },
    );
  if (as === "docx") return handedFile(made);
  const { bytes, first } = made.value;
  return Response.json(
    { pages: bytes.toString("base64"), first },
    { headers: { "cache-control": "private, no-store" } },
  );
}
