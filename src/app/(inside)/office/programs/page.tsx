import type { Metadata } from "next";
import { listKeys, listServices } from "@/services";
import { PageHeader } from "@/ui";
import { requireActor } from "@/web";
import { Keys } from "./Keys";
import { Programs } from "./Programs";

export const metadata: Metadata = { title: "Programs" };

export default async function ProgramsPage() {
  const actor = await requireActor("/office/programs");
  const [keys, programs] = await Promise.all([listKeys(actor), listServices(actor)]);
  return (
    <>
      <PageHeader title="Programs" lead="Other programs that act here, and the keys by which they do." />
      {actor.officeRights && <Programs programs={programs} />}
      <Keys
        zone={actor.zone}
        me={{ id: actor.id, name: actor.name }}
        programs={programs.filter((p) => p.active).map((p) => ({ id: p.id, name: p.name }))}
        keys={keys.map((k) => ({
          id: k.id,
          person: k.person_name,
          label: k.label,
          made: k.created_at,
          used: k.last_used_at,
          revoked: k.revoked_at,
        }))}
      />
    </>
  );
}
