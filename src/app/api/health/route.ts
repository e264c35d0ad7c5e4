import { healthy } from "@/services";

export const dynamic = "force-dynamic";
export async function GET(): Promise<Response> {
  return (await healthy()) ? Response.json({ ok: true }) : Response.json({ ok: false }, { status: 503 });
}
