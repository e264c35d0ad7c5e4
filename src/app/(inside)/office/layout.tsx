import type { ReactNode } from "react";
import { requireActor } from "@/web";
import { Tabs } from "../../shell/Tabs";

export default async function OfficeLayout({ children }: { children: ReactNode }) {
  const actor = await requireActor("/office");
  return (
    <>
      <Tabs
        label="Office"
        pages={[
          { href: "/office", name: "People" },
          { href: "/office/places", name: "Departments and sites" },
          { href: "/office/groups", name: "Groups" },
          { href: "/office/calendars", name: "Working calendars" },
          { href: "/office/programs", name: "Programs" },
          ...(actor.officeRights
            ? [
                { href: "/office/mailboxes", name: "Mailboxes" },
                { href: "/office/chat", name: "Chat room" },
                { href: "/office/outlets", name: "Shelf and printing" },
                { href: "/office/letters", name: "Letters" },
                { href: "/office/files", name: "Files" },
                { href: "/office/jobs", name: "Jobs" },
                { href: "/office/log", name: "Log" },
              ]
            : []),
        ]}
      />
      {children}
    </>
  );
}
