import { bringSheet, failureStatus, sentenceOf } from "@/services";
import { takeUpload } from "@/web";

export const dynamic = "force-dynamic";

/** Takes a sheet to be brought into `?register=`, or to make a register of where none is said; a worker reads it. */
export const POST = (request: Request): Promise<Response> =>
  takeUpload(request, async (actor, name, bytes) => {
    const register = new URL(request.url).searchParams.get("register");
    const began = await bringSheet(actor, register, name, bytes);
    return began.ok
      ? Response.json(began.value, { status: 201 })
      : Response.json(
          { sentence: await sentenceOf(began.failure) },
          { status: failureStatus(began.failure) },
        );
  });
