import type { Metadata } from "next";
import { officePage } from "@/services";
import { PageHeader } from "@/ui";
import { requireActor } from "@/web";
import { Calendars } from "./Calendars";

export const metadata: Metadata = { title: "Working calendars" };

export default async function CalendarsPage() {
  const actor = await requireActor("/office/calendars");
  const { calendars, keeps } = await officePage(actor);
  return (
    <>
      <PageHeader
        title="Working calendars"
        lead="When people work. Time limits in working days and hours count only these; a limit that stands already keeps its moment."
      />
      <Calendars calendars={calendars} keeps={keeps} zone={actor.zone} />
    </>
  );
}
