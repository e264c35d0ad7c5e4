import "server-only";
import { cookies, headers } from "next/headers";
import { redirect } from "next/navigation";
import { cache } from "react";
import { GOING_COOKIE, KNOWN_COOKIE, SESSION_COOKIE } from "./cookies";
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

function cookieOptions() {
  const { publicUrl } = settingsNow();
  // The demo, and whoever tries it on their own machine, run on plain loopback HTTP.
  return { httpOnly: true, sameSite: "lax", path: "/", secure: publicUrl.startsWith("https:") } as const;
}

export async function setSession({ token, known }: SignedIn): Promise<void> {
  const jar = await cookies();
  const { sessionDays } = settingsNow();
  const all = cookieOptions();
  jar.set(SESSION_COOKIE, token, { ...all, maxAge: sessionDays * 86_400 });
  jar.set(KNOWN_COOKIE, known, { ...all, maxAge: 400 * 86_400 });
}
export async function clearSession(): Promise<string | null> {
  const jar = await cookies();
  const token = jar.get(SESSION_COOKIE)?.value ?? null;
  jar.delete(SESSION_COOKIE);
  return token;
}

/** Gives the browser what it carries to the provider of sign-ins. */
export async function setGoing(carry: string): Promise<void> {
  (await cookies()).set(GOING_COOKIE, carry, { ...cookieOptions(), maxAge: 900 });
}
/** Takes it back; it serves once. */
export async function takeGoing(): Promise<string | null> {
  const jar = await cookies();
  const carried = jar.get(GOING_COOKIE)?.value ?? null;
  jar.delete(GOING_COOKIE);
  return carried;
}
