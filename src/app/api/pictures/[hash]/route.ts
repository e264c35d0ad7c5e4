import { pictureOfText } from "@/services";

export const dynamic = "force-dynamic";

/** A picture that stands in a text of a form: for whoever was given the text, also outside. It never changes. */
export async function GET(_: Request, { params }: { params: Promise<{ hash: string }> }): Promise<Response> {
  const bytes = await pictureOfText((await params).hash);
  if (!bytes) return new Response("There is no such picture.", { status: 404 });
  return new Response(new Uint8Array(bytes), {
    headers: {
      "content-type": "image/webp",
      "content-length": String(bytes.length),
      "cache-control": "public, max-age=31536000, immutable",
      "x-content-type-options": "nosniff",
      "content-security-policy": "default-src 'none'; sandbox",
    },
  });
}
