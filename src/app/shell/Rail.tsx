"use client";
import {
  BookOpen,
  Building2,
  Globe,
  Hammer,
  Inbox,
  Milestone,
  PanelLeftClose,
  PanelLeftOpen,
  PenLine,
} from "lucide-react";
import Link from "next/link";
import { usePathname } from "next/navigation";
import { useState } from "react";
import { classes } from "@/ui";
import { useAreaHere } from "./areaHere";

const AREAS = [
  { href: "/ask", name: "Ask", icon: PenLine },
  { href: "/desk", name: "Desk", icon: Inbox },
  { href: "/workshop", name: "Workshop", icon: Hammer },
  { href: "/registers", name: "Registers", icon: BookOpen },
  { href: "/progress", name: "Progress", icon: Milestone },
  { href: "/office", name: "Office", icon: Building2 },
  { href: "/outside", name: "Outside", icon: Globe },
] as const;

/** The areas, in words. On a phone they stand in a row at the foot of the page. */
export function Rail({
  waiting,
  small,
  areas,
}: {
  waiting: number;
  small: boolean;
  /** Areas its person can do something in, beside those that are for everybody. */
  areas: { designs: boolean; watches: boolean; office: boolean; outside: boolean };
}) {
  const path = usePathname();
  const where = useAreaHere();
  const may: Partial<Record<(typeof AREAS)[number]["href"], boolean>> = {
    "/workshop": areas.designs,
    "/progress": areas.watches,
    "/office": areas.office,
    "/outside": areas.outside,
  };
  const [narrow, setNarrow] = useState(small);
  const fold = () => {
    setNarrow(!narrow);
    document.cookie = `rail=${narrow ? "wide" : "narrow"}; path=/; max-age=31536000; samesite=lax`;
  };
  return (
    <nav
      aria-label="Areas"
      className={classes(
        "no-print z-20 flex shrink-0 border-line bg-ground max-md:fixed max-md:inset-x-0 max-md:bottom-0 max-md:overflow-x-auto max-md:border-t md:sticky md:top-11 md:h-[calc(100vh-2.75rem)] md:flex-col md:border-r md:py-4",
        narrow ? "md:w-14" : "md:w-44",
      )}
    >
      {AREAS.filter(({ href }) => may[href] ?? true).map(({ href, name, icon: Icon }) => {
        const here = path.startsWith(href) || (path.startsWith("/requests") && href === where);
        return (
          <Link
            key={href}
            href={href}
            prefetch={false}
            aria-current={here ? "page" : undefined}
            title={narrow ? name : undefined}
            className={classes(
              "relative flex items-center gap-2.5 px-4 py-2 no-underline max-md:flex-1 max-md:flex-col max-md:gap-0.5 max-md:px-2 max-md:py-1.5 max-md:text-xs",
              here
                ? "font-medium text-ink md:border-l-[3px] md:border-moss md:pl-[13px]"
                : "text-soft hover:text-ink",
            )}
          >
            <Icon size={17} strokeWidth={1.6} aria-hidden />
            <span className={classes(narrow && "md:sr-only")}>{name}</span>
            {href === "/desk" && waiting > 0 && (
              <span
                className={classes(
                  "rounded-full bg-pebble px-1.5 text-xs font-medium text-ink max-md:absolute max-md:top-0.5 max-md:left-1/2 max-md:ml-1.5 md:ml-auto",
                  narrow && "md:sr-only",
                )}
                aria-label={`${waiting} waiting`}
              >
                {waiting}
              </span>
            )}
          </Link>
        );
      })}
      <button
        type="button"
        onClick={fold}
        className="mt-auto flex items-center gap-2.5 px-4 py-2 text-sm text-faint hover:text-ink max-md:hidden"
        aria-expanded={!narrow}
      >
        {narrow ? (
          <PanelLeftOpen size={17} strokeWidth={1.6} aria-hidden />
        ) : (
          <PanelLeftClose size={17} strokeWidth={1.6} aria-hidden />
        )}
        <span className={classes(narrow && "sr-only")}>{narrow ? "Unfold" : "Fold"}</span>
      </button>
    </nav>
  );
}
