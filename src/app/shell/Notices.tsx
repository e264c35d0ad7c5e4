"use client";
import { Bell } from "lucide-react";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import type { Notice } from "@/services";
import { classes, Popover, whenText } from "@/ui";
import { noticesAction, readNoticesAction } from "../actions/requests";

/** From here on they are not counted one by one. */
const MOST = 100;

/** What this person is told: fetched when it is opened, and again when something new came meanwhile. */
export function Notices({ className, unread, zone }: { className: string; unread: number; zone: string }) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const [list, setList] = useState<Notice[] | null>(null);
  const [failed, setFailed] = useState(false);
  useEffect(() => {
    if (!open) return;
    let here = true;
    noticesAction()
      .then((l) => {
        if (!here) return;
        setList(l);
        setFailed(false);
      })
      .catch(() => here && setFailed(true));
    return () => {
      here = false;
    };
  }, [open, unread]);
  const close = () => {
    setOpen(false);
    const newest = list?.[0];
    // What came after the newest that was shown is still new.
    if (newest && list.some((n) => !n.read))
      void readNoticesAction(newest.id).then(
        () => router.refresh(),
        () => undefined,
      );
  };
  const news = list?.filter((n) => !n.read) ?? [];
  const older = list?.filter((n) => n.read) ?? [];
  const row = (n: Notice) => (
    <li key={n.id} className="border-t border-line py-2">
      {n.number && (
        <p className="text-sm text-soft">
          {n.number}
          {n.title && ` · ${n.title}`}
        </p>
      )}
      <p className={classes(!n.read && "font-medium")}>
        {n.href ? (
          <Link className="link" href={n.href} prefetch={false} onClick={close}>
            {n.text}
          </Link>
        ) : (
          n.text
        )}
      </p>
      {n.body && <p className="text-sm whitespace-pre-wrap text-soft">{n.body}</p>}
      <p className="text-sm text-faint">{whenText(n.at, zone)}</p>
    </li>
  );
  return (
    <Popover
      align="end"
      width={400}
      open={open}
      onOpenChange={(o) => (o ? setOpen(true) : close())}
      trigger={
        <button
          type="button"
          className={className}
          aria-label={`Notices, ${unread >= MOST ? "a hundred or more" : unread} new`}
        >
          <Bell size={15} aria-hidden />
          {unread > 0 && (
            <span className="rounded-full bg-moss px-1.5 text-xs text-on-moss">
              {unread >= MOST ? "99+" : unread}
            </span>
          )}
        </button>
      }
    >
      <h2 className="mb-1 !text-base">Notices</h2>
      {failed && <p className="text-brick">They could not be fetched. Close this and try again.</p>}
      {!failed && list === null && <p className="text-soft">Looking…</p>}
      {list?.length === 0 && (
        <p className="text-soft">Nothing yet. What comes to you, and what processes tell you, stands here.</p>
      )}
      {news.length > 0 && <ul>{news.map(row)}</ul>}
      {news.length > 0 && older.length > 0 && (
        <h3 className="mt-3 border-t border-line-strong pt-2 text-sm text-soft">Seen before</h3>
      )}
      {older.length > 0 && <ul>{older.map(row)}</ul>}
      <p className="mt-2 border-t border-line pt-2 text-sm">
        <Link className="link" href="/you#news" prefetch={false} onClick={close}>
          Choose what you are told of
        </Link>
      </p>
    </Popover>
  );
}
