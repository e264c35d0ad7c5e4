"use client";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { sheetFarAction } from "../../../../../actions/sheets";

/** Milliseconds between looks at how far it is. */
const EVERY = 700;

/** How far the work on a sheet is; looks until it has gone on, also when the page was left and opened again. */
export function Follow(p: { id: string; status: string; done: number; total: number }) {
  const router = useRouter();
  const [far, setFar] = useState({ done: p.done, total: p.total });
  useEffect(() => {
    let stopped = false;
    const look = async () => {
      const now = await sheetFarAction(p.id).catch(() => null);
      if (stopped) return;
      if (now?.ok) {
        setFar(now.value);
        if (now.value.status !== p.status) return router.refresh();
      }
      timer = setTimeout(look, EVERY);
    };
    let timer = setTimeout(look, EVERY);
    return () => {
      stopped = true;
      clearTimeout(timer);
    };
  }, [p.id, p.status, router]);
  const verb = { reading: "Reading", trying: "Trying, without writing anything", writing: "Bringing in" }[
    p.status
  ];
  const known = far.total > 0;
  return (
    <div role="status" className="mb-4 max-w-xl">
      <p className="mb-1">
        {verb}
        {known ? `: ${far.done.toLocaleString("en-IE")} of ${far.total.toLocaleString("en-IE")} rows` : " …"}
      </p>
      <progress
        aria-label="How far it is"
        className="h-1.5 w-full accent-moss"
        {...(known ? { value: far.done, max: far.total } : {})}
      />
      <p className="mt-1 text-sm text-soft">You may leave this page; it goes on, and waits here for you.</p>
    </div>
  );
}
