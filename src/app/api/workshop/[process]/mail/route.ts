import { failureStatus, sampleOfMailFile, sentenceOf } from "@/services";
import { takeUpload } from "@/web";

export const dynamic = "force-dynamic";

interface Props {
  params: Promise<{ process: string }>;
}
/** Reads a mail that somebody has kept as a file, for a sample of a draft. Nothing of it is kept here. */
export const POST = (request: Request, { params }: Props): Promise<Response> =>
  takeUpload(request, async (actor, _name, bytes) => {
    const { process } = await params;
    const read = await sampleOfMailFile(actor, process, bytes);
    return read.ok
      ? Response.json(read.value)
      : Response.json({ sentence: await sentenceOf(read.failure) }, { status: failureStatus(read.failure) });
  });
