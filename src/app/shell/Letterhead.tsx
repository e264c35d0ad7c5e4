import type { ReactNode } from "react";

/** A page for people outside: whose it is stands above, like on paper, and nothing else of Cobble Step. */
export function Letterhead({ of, children }: { of: string; children: ReactNode }) {
  return (
    <main className="mx-auto max-w-4xl px-4 py-6 pb-16 md:px-8 md:py-10">
      <p className="mb-6 border-b-2 border-line-strong pb-3 font-serif text-xl font-semibold break-words">
        {of}
      </p>
      {children}
    </main>
  );
}
