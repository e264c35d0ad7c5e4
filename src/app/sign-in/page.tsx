import type { Metadata } from "next";
import { peopleOfDemo, PROVIDER_WHYS, providerName, sentenceOf } from "@/services";
import { Banner, buttonClass } from "@/ui";
import { isDemo } from "@/web";
import { becomeAction } from "../actions/signIn";
import { SignInForm } from "./SignInForm";

export const metadata: Metadata = { title: "Sign in" };
export const dynamic = "force-dynamic";

export default async function SignInPage({
  searchParams,
}: {
  searchParams: Promise<{ from?: string; why?: string }>;
}) {
  const { from = "", why } = await searchParams;
  const refused = PROVIDER_WHYS.find((w) => w === why);
  const provider = providerName();
  const people = isDemo() ? await peopleOfDemo() : [];
  return (
    <main className="mx-auto grid max-w-5xl gap-x-14 gap-y-8 px-5 py-10 md:grid-cols-[19rem_1fr]">
      <section>
        <p className="mb-6 font-serif text-2xl font-bold">Cobble Step</p>
        <h1 className="mb-4">Sign in</h1>
        {refused && (
          <Banner tone="bad">{await sentenceOf({ code: "provider-refused", data: { why: refused } })}</Banner>
        )}
        {provider && (
          <>
            <p className="mb-5">
              <a className={buttonClass("main")} href={`/sign-in/provider?from=${encodeURIComponent(from)}`}>
                Sign in through {provider}
              </a>
            </p>
            <h2 className="mb-3 !text-lg">Or with a password</h2>
          </>
        )}
        <SignInForm from={from} />
      </section>
      {isDemo() && (
        <section>
          <h2 className="mb-1 !text-2xl">Or pick a person</h2>
          <p className="mb-3 text-soft">
            This is the demo of Quillhaven Museums. One click signs you in as one of its staff; you can change
            at any time.
          </p>
          <form action={becomeAction}>
            <input type="hidden" name="from" value={from} />
            <ul className="border-t border-line">
              {people.map((p) => (
                <li key={p.id} className="border-b border-line">
                  <button
                    name="person"
                    value={p.id}
                    className="grid w-full grid-cols-[minmax(0,11rem)_minmax(0,1fr)] gap-x-4 px-1.5 py-1.5 text-left hover:bg-slate-wash max-sm:grid-cols-1"
                  >
                    <span className="font-medium">{p.name}</span>
                    <span className="text-soft">
                      {p.job}, {p.site}
                      {p.shows && <span className="block text-ink">{p.shows}</span>}
                    </span>
                  </button>
                </li>
              ))}
            </ul>
          </form>
        </section>
      )}
    </main>
  );
}
