import { redirect } from "next/navigation";
import { goToProvider } from "@/services";
import { currentActor, setGoing, signInAfter } from "@/web";

export const dynamic = "force-dynamic";

/** Sends somebody to the provider of sign-ins; with `?prove=1` somebody signed in, to show anew who they are. */
export async function GET(request: Request): Promise<Response> {
  const query = new URL(request.url).searchParams;
  const actor = query.get("prove") === "1" ? await currentActor() : null;
  const going = await goToProvider((query.get("from") ?? "").slice(0, 500), actor);
  if (!going.ok) redirect(signInAfter(going.failure));
  await setGoing(going.value.carry);
  redirect(going.value.url);
}
