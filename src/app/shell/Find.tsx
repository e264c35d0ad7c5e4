"use client";
import { Search } from "lucide-react";
import { lazy, Suspense, useEffect, useState } from "react";
import { Kbd } from "@/ui";
import type { Place } from "./Finder";

const Finder = lazy(() => import("./Finder"));

const PAGES: readonly Place[] = [
  { name: "Ask", where: "make a request, follow your own", go: "/ask" },
  { name: "Desk", where: "what waits for you", go: "/desk" },
  { name: "Workshop", where: "design processes", go: "/workshop" },
  { name: "Formulas", where: "every function with an example", go: "/workshop/formulas" },
  { name: "Registers", where: "look at records", go: "/registers" },
  { name: "Progress", where: "watch requests under way", go: "/progress" },
  { name: "Office", where: "people and their duties", go: "/office" },
  { name: "Groups", where: "in Office", go: "/office/groups" },
  { name: "Working calendars", where: "in Office", go: "/office/calendars" },
  { name: "Programs", where: "services and keys, in Office", go: "/office/programs" },
  { name: "You", where: "your sessions, password and times away", go: "/you" },
];

/** The way to anything: a button, and Ctrl or Cmd K from everywhere. What finds is loaded when it is asked for. */
export function Find({ className, flip, dark }: { className: string; flip(): void; dark: boolean }) {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      if ((e.ctrlKey || e.metaKey) && !e.shiftKey && !e.altKey && e.key.toLowerCase() === "k") {
        e.preventDefault();
        setOpen((o) => !o);
      }
    };
    // Before anything on the page can take the key for itself.
    window.addEventListener("keydown", key, true);
    return () => window.removeEventListener("keydown", key, true);
  }, []);
  return (
    <>
      <button
        type="button"
        className={className}
        aria-keyshortcuts="Control+K Meta+K"
        onClick={() => setOpen(true)}
      >
        <Search size={15} aria-hidden />
        <span className="max-sm:sr-only">Find</span>{" "}
        <span className="max-md:hidden">
          <Kbd>Ctrl K</Kbd>
        </span>
      </button>
      {open && (
        <Suspense>
          <Finder
            places={[
              ...PAGES,
              { name: dark ? "Light colours" : "Dark colours", where: "how the pages look", go: flip },
            ]}
            onClose={() => setOpen(false)}
          />
        </Suspense>
      )}
    </>
  );
}
