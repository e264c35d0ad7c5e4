import type { Metadata } from "next";
import { openCatalogue, passerBy } from "@/services";
import { CatalogueList } from "../shell/CatalogueList";
import { Letterhead } from "../shell/Letterhead";

export const metadata: Metadata = { title: { absolute: "Forms" } };
export const dynamic = "force-dynamic";

/** The forms that are open to people outside, under the names of those whose they are. */
export default async function OpenFormsPage() {
  const forms = await openCatalogue(await passerBy());
  const heads = [...new Set(forms.map((f) => f.letterhead))];
  return (
    <Letterhead of={heads.length === 1 ? heads[0]! : "Forms"}>
      <h1 className="mb-4">What you can ask for</h1>
      {forms.length === 0 && <p className="text-soft">No form is open here just now.</p>}
      {heads.map((head) => (
        <section key={head} aria-label={head} className="mb-6">
          {heads.length > 1 && <h2 className="mb-2">{head}</h2>}
          <CatalogueList forms={forms.filter((f) => f.letterhead === head)} area="open" />
        </section>
      ))}
    </Letterhead>
  );
}
