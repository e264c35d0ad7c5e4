import type { Metadata } from "next";
import { settingsNow } from "@/services";
import { Empty, PageHeader } from "@/ui";
import { requireActor } from "@/web";

export const metadata: Metadata = { title: "Outside" };

/** The made-up world around the demo: programs that stand in for services outside. */
export default async function OutsidePage() {
  await requireActor("/outside");
  const { standIns } = settingsNow();
  return (
    <>
      <PageHeader
        title="Outside"
        lead="Programs of the demo that stand in for what is outside of it. Each is a page of its own, on which that part of the world can be played by hand."
      />
      {standIns.length === 0 ? (
        <Empty title="Nothing stands in">The real services outside are used here.</Empty>
      ) : (
        <ul className="max-w-3xl">
          {standIns.map((s) => (
            <li key={s.name} className="border-t border-line py-3">
              <h2 className="!text-base">
                <a className="link" href={s.url} target="_blank" rel="noreferrer">
                  {s.name}
                </a>
              </h2>
              <p className="text-soft">{s.says}</p>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
