import "server-only";
import { cookies } from "next/headers";
import { redirect } from "next/navigation";
import { cache } from "react";
import { actorOfSession, type Actor } from "@/services";

export const SESSION_COOKIE = "cobble_session";
export const isDemo = (): boolean => process.env["COBBLE_DEMO"] === "1";

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

export async function setSession(token: string): Promise<void> {
  (await cookies()).set(SESSION_COOKIE, token, {
    httpOnly: true,
    sameSite: "lax",
    path: "/",
    maxAge: 14 * 86_400,
    // The demo runs on plain loopback HTTP; anywhere else the cookie needs a safe connection.
    secure: process.env["NODE_ENV"] === "production" && !isDemo(),
  });
}
export async function clearSession(): Promise<string | null> {
  const jar = await cookies();
  const token = jar.get(SESSION_COOKIE)?.value ?? null;
  jar.delete(SESSION_COOKIE);
  return token;
}
