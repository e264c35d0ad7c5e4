import { cookies, headers } from "next/headers";
import type { ReactNode } from "react";
import { badges, nowFor, peopleOfDemo, settingsNow } from "@/services";
import { isDemo, requireActor } from "@/web";
import { Keys } from "../shell/Keys";
import { Live } from "../shell/Live";
import { Rail } from "../shell/Rail";
import { Sayings } from "../shell/Sayings";
import { TopBar } from "../shell/TopBar";

export default async function InsideLayout({ children }: { children: ReactNode }) {
  const actor = await requireActor((await headers()).get("x-path") ?? undefined);
  const jar = await cookies();
  const [b, now, people] = await Promise.all([
    badges(actor),
    isDemo() ? nowFor() : 0,
    isDemo() ? peopleOfDemo() : [],
  ]);
  return (
    <>
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-raised focus:p-2"
      >
        To the contents
      </a>
      <TopBar
        me={{ id: actor.id, name: actor.name, zone: actor.zone }}
        dark={jar.get("theme")?.value === "dark"}
        unread={b.unread}
        demo={isDemo() ? { people, now } : null}
      />
      <div className="flex">
        <Rail
          waiting={b.desk}
          small={jar.get("rail")?.value === "narrow"}
          areas={{
            designs: b.owns || actor.officeRights,
            watches: b.owns,
            office: actor.officeRights,
            outside: settingsNow().standIns.length > 0,
          }}
        />
        <main id="main" className="min-w-0 flex-1 px-4 py-5 pb-24 md:px-7 md:pb-10">
          {children}
        </main>
      </div>
      <Live />
      <Sayings />
      <Keys />
    </>
  );
}
