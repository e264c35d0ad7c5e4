import type { Metadata } from "next";
import { openCatalogue, openForm, passerBy } from "@/services";
import { Banner } from "@/ui";
import { answerOf, queryOnce } from "@/web";
import { Prose } from "@/forms";
import { Letterhead } from "../../shell/Letterhead";
import { OpenFormLater } from "./OpenFormLater";

export const dynamic = "force-dynamic";

interface Props {
  params: Promise<{ process: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { process } = await params;
  const form = (await openCatalogue(await passerBy())).find((f) => f.key === process);
  if (!form) return { title: { absolute: "No form" }, robots: "noindex" };
  return { title: { absolute: `${form.name} · ${form.letterhead}` } };
}

/** A form for people outside, with whatever the link says filled in. */
export default async function OpenPage({ params, searchParams }: Props) {
  const { process } = await params;
  const page = await answerOf(await openForm(await passerBy(), process, queryOnce(await searchParams)));
  if (!page.ok)
    return (
      <Letterhead of="Nothing to fill in here">
        <h1 className="mb-2">There is no such form</h1>
        <p>
          It may have been closed, or the address was cut off where it was shown. Look at the page that led
          you here once more, or ask whoever gave you the address.
        </p>
      </Letterhead>
    );
  const { name, purpose, open, form, said } = page.value;
  return (
    <Letterhead of={open.letterhead}>
      <h1 className="mb-1 break-words">{name}</h1>
      {open.greeting.trim() ? (
        <Prose text={open.greeting.replaceAll("{", "{{")} values={[]} />
      ) : (
        <p className="mb-3 max-w-prose text-soft">{purpose}</p>
      )}
      {said.length > 0 && <Banner tone="info">{said.join(" ")}</Banner>}
      <noscript>
        <p className="mb-4">
          This form works itself out as it is filled in, and needs a browser that lets it.
        </p>
      </noscript>
      <OpenFormLater process={process} asks={open.asks} source={form} />
    </Letterhead>
  );
}
