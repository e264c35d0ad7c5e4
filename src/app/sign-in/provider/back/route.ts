import { redirect } from "next/navigation";
import { comeBack } from "@/services";
import { currentActor, ownPath, setSession, signingIn, takeGoing, signInAfter } from "@/web";

export const dynamic = "force-dynamic";

/** Where people come back to from the provider of sign-ins. */
export async function GET(request: Request): Promise<Response> {
  const carried = await takeGoing();
  const back = await comeBack(new URL(request.url).search, carried, await currentActor(), await signingIn());
  if (!back.ok) redirect(signInAfter(back.failure));
  if (back.value.kind === "shown anew") redirect("/shown-anew");
  await setSession(back.value.signedIn);
  redirect(ownPath(back.value.from));
}
