import { healthOf } from "@/services";

export const dynamic = "force-dynamic";
/** 200 while all works, 503 with the reason while it does not: for whatever watches over this server. */
export async function GET(): Promise<Response> {
  const health = await healthOf();
  return health.ok
    ? Response.json(health)
    : Response.json(health, { status: 503, headers: { "retry-after": "5" } });
}
