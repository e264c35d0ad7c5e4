"use server";
import { headers } from "next/headers";
import { redirect } from "next/navigation";
import { z } from "zod";
import { becomePerson, signIn, signOut } from "@/services";
import { answerOf, clearSession, isDemo, ownPath, setSession } from "@/web";

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
  const address = (await headers()).get("x-forwarded-for") ?? "local";
  const result = await answerOf(await signIn(parsed.data.email, parsed.data.password, address));
  if (!result.ok) return { sentence: result.sentence };
  await setSession(result.value.token);
  redirect(ownPath(parsed.data.from));
}

export async function becomeAction(form: FormData): Promise<void> {
  if (!isDemo()) redirect("/sign-in");
  const token = await becomePerson(String(form.get("person") ?? ""));
  const old = await clearSession();
  if (old) await signOut(old);
  if (!token) redirect("/sign-in");
  await setSession(token);
  redirect(ownPath(String(form.get("from") ?? "")));
}

export async function signOutAction(): Promise<void> {
  const token = await clearSession();
  if (token) await signOut(token);
  redirect("/sign-in");
}
