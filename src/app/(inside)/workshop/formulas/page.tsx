import type { Metadata } from "next";
import Link from "next/link";
import { SECTIONS, signature, typeInWords } from "@/core/expression";
import { REFERENCE } from "@/core/reference";
import { nowFor } from "@/services";
import { PageHeader } from "@/ui";
import { requireActor } from "@/web";
import { Tried } from "./Tried";

export const metadata: Metadata = { title: "Formulas" };

/** Every function with an example that runs; the same list the editor completes from. */
export default async function FormulasPage() {
  const actor = await requireActor("/workshop/formulas");
  const now = await nowFor();
  const functions = SECTIONS.map((s) => ({
    title: s.title,
    functions: Object.entries(s.of).map(([name, ways]) => ({
      name,
      signature: signature(name),
      says: REFERENCE[name]?.says ?? "",
      example: REFERENCE[name]?.example ?? "",
      gives: typeof ways[0]!.result === "function" ? "" : typeInWords(ways[0]!.result),
    })),
  }));
  return (
    <>
      <PageHeader
        above={
          <Link className="link" href="/workshop">
            Workshop
          </Link>
        }
        title="Formulas"
        lead="The language of every condition, worked-out field and rule: FEEL, an open standard (OMG DMN 1.5), with field names as you write them. Change any example; what it comes to stands below it."
      />
      <Tried sections={functions} now={now} zone={actor.zone} />
    </>
  );
}
