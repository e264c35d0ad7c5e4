"use server";
import { redirect } from "next/navigation";
import { z } from "zod";
import { becomePerson, proveAnew, providerName, setPasswordByLink, signIn, signOut } from "@/services";
import {
  answerOf,
  clearSession,
  isDemo,
  ownPath,
  requireActor,
  setSession,
  signingIn,
  type Answer,
} from "@/web";

const credentials = z.object({
  email: z.string().max(200),
  password: z.string().max(500),
  from: z.string().max(500),
});

export async function signInAction(
  _before: { sentence: string } | null,
  form: FormData,
): Promise<{ sentence: string } | null> {
  const parsed = credentials.safeParse({
    email: form.get("email") ?? "",
    password: form.get("password") ?? "",
    from: form.get("from") ?? "",
  });
  if (!parsed.success) return { sentence: "Fill in both, e-mail and password." };
  const result = await answerOf(await signIn(parsed.data.email, parsed.data.password, await signingIn()));
  if (!result.ok) return { sentence: result.sentence };
  await setSession(result.value);
  redirect(ownPath(parsed.data.from));
}

export async function becomeAction(form: FormData): Promise<void> {
  if (!isDemo()) redirect("/sign-in");
  const signedIn = await becomePerson(String(form.get("person") ?? ""), await signingIn());
  if (!signedIn) redirect("/sign-in");
  await setSession(signedIn);
  redirect(ownPath(String(form.get("from") ?? "")));
}

export async function signOutAction(): Promise<void> {
  const token = await clearSession();
  if (token) await signOut(token);
  redirect("/sign-in");
}

/** Shows once more who one is, before something that matters. */
export async function proveAnewAction(password: string): Promise<Answer<null>> {
  const { known } = await signingIn();
  return answerOf(await proveAnew(await requireActor(), z.string().max(500).parse(password), known));
}

export async function setPasswordAction(
  _before: { sentence: string } | null,
  form: FormData,
): Promise<{ sentence: string } | null> {
  const text = (name: string) => String(form.get(name) ?? "").slice(0, 1000);
  if (text("password") !== text("again")) return { sentence: "The two are not the same. Type both anew." };
  const result = await answerOf(await setPasswordByLink(text("token"), text("password"), await signingIn()));
  if (!result.ok) return { sentence: result.sentence };
  await setSession(result.value);
  redirect("/desk");
}

/** The provider through which one may show who one is; null where there is none. */
export async function proofProviderAction(): Promise<string | null> {
  await requireActor();
  return providerName();
}
