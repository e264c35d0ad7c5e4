import type { Metadata } from "next";

export const metadata: Metadata = { title: "Thank you" };

/** Stands in the window in which somebody has shown anew who they are. */
export default function ShownAnewPage() {
  return (
    <main className="mx-auto max-w-md px-5 py-10">
      <p className="mb-6 font-serif text-2xl font-bold">Cobble Step</p>
      <h1 className="mb-2">It is you</h1>
      <p className="text-soft">Close this window and press “Go on” in the one you came from.</p>
    </main>
  );
}
