import type { Metadata } from "next";
import Link from "next/link";
import { linkPerson } from "@/services";
import { SetPasswordForm } from "./SetPasswordForm";

export const metadata: Metadata = { title: "Set a password", referrer: "no-referrer" };
export const dynamic = "force-dynamic";

/** Reached by a link from the office. Looking at it uses nothing up. */
export default async function SetPasswordPage({
  searchParams,
}: {
  searchParams: Promise<{ token?: string | string[] }>;
}) {
  const { token = "" } = await searchParams;
  const person = typeof token === "string" ? await linkPerson(token) : null;
  return (
    <main className="mx-auto max-w-md px-5 py-10">
      <p className="mb-6 font-serif text-2xl font-bold">Cobble Step</p>
      {person && typeof token === "string" ? (
        <>
          <h1 className="mb-2">Welcome, {person.name}</h1>
          <p className="mb-4 text-soft">
            Choose a password; with it you are signed in. It has at least 12 characters: four words that have
            nothing to do with each other make a good one.
          </p>
          <SetPasswordForm token={token} />
        </>
      ) : (
        <>
          <h1 className="mb-2">This link no longer works</h1>
          <p className="mb-4 text-soft">
            It was used already, was replaced by a newer one, or is older than three days. Ask whoever keeps
            your office for another.
          </p>
          <Link className="link" href="/sign-in">
            Sign in
          </Link>
        </>
      )}
    </main>
  );
}
