import "server-only";
import { cookies, headers } from "next/headers";
import { redirect } from "next/navigation";
import { cache } from "react";
import { KNOWN_COOKIE, SESSION_COOKIE } from "./cookies";
import { actorOfSession, settingsNow, type Actor, type SignedIn, type SigningIn } from "@/services";

export const isDemo = (): boolean => settingsNow().demo;

/** Who is signed in; asked once per request. */
export const currentActor = cache(async (): Promise<Actor | null> => {
  const token = (await cookies()).get(SESSION_COOKIE)?.value;
  return token ? actorOfSession(token) : null;
});

/** The signed-in person, or off to the sign-in page, coming back to `from` afterwards. */
export async function requireActor(from?: string): Promise<Actor> {
  const actor = await currentActor();
  if (!actor) redirect(from ? `/sign-in?from=${encodeURIComponent(from)}` : "/sign-in");
  return actor;
}

/** What the browser at the other end brings along to signing in. */
export async function signingIn(): Promise<SigningIn> {
  const jar = await cookies();
  const token = (name: string) => {
    const said = jar.get(name)?.value;
    return said && /^[\w-]{43}$/.test(said) ? said : null;
  };
  return {
    browser: (await headers()).get("user-agent") ?? "",
    earlier: token(SESSION_COOKIE),
    known: token(KNOWN_COOKIE),
  };
}

export async function setSession({ token, known }: SignedIn): Promise<void> {
  const jar = await cookies();
  const { demo, publicUrl, sessionDays } = settingsNow();
  // The demo runs on plain loopback HTTP; anywhere else the cookie needs a safe connection.
  const secure = demo ? false : publicUrl.startsWith("https:");
  const all = { httpOnly: true, sameSite: "lax", path: "/", secure } as const;
  jar.set(SESSION_COOKIE, token, { ...all, maxAge: sessionDays * 86_400 });
  jar.set(KNOWN_COOKIE, known, { ...all, maxAge: 400 * 86_400 });
}
export async function clearSession(): Promise<string | null> {
  const jar = await cookies();
  const token = jar.get(SESSION_COOKIE)?.value ?? null;
  jar.delete(SESSION_COOKIE);
  return token;
}
