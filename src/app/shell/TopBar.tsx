"use client";
import { Clock, Moon, Sun, UserRound } from "lucide-react";
import Link from "next/link";
import { usePathname, useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import { Button, Popover, whenText } from "@/ui";
import { becomeAction, signOutAction } from "../actions/signIn";
import { sweepUnkept } from "./unkept";
import { moveClockAction } from "../actions/requests";
import { Find } from "./Find";
import { Notices } from "./Notices";

export interface TopBarProps {
  me: { id: string; name: string; zone: string };
  demo: { people: { id: string; name: string; job: string }[]; now: number } | null;
  unread: number;
  dark: boolean;
}

const HOUR = 3_600_000;
const MOVES = [
  ["1 hour", HOUR],
  ["4 hours", 4 * HOUR],
  ["1 day", 24 * HOUR],
  ["3 days", 72 * HOUR],
  ["1 week", 168 * HOUR],
] as const;

/** The line on top: the demo's clock and people, notices, who is signed in. */
export function TopBar({ me, demo, unread, dark }: TopBarProps) {
  const router = useRouter();
  const path = usePathname();
  const [moving, start] = useTransition();
  const [sentence, setSentence] = useState("");
  const move = (ms: number) =>
    start(async () => {
      const r = await moveClockAction(ms);
      setSentence(r.ok ? `The clock stands at ${whenText(r.value.now, me.zone)}.` : r.sentence);
      router.refresh();
    });
  const flip = () => {
    document.cookie = `theme=${dark ? "light" : "dark"}; path=/; max-age=31536000; samesite=lax`;
    router.refresh();
  };
  const item = "flex min-h-8 items-center gap-1.5 rounded px-2 text-sm hover:bg-pebble";
  return (
    <header
      data-bar
      className="sticky top-0 z-30 flex h-11 items-center gap-1 border-b border-line bg-ground px-3 md:px-4"
    >
      <Link href="/desk" className="mr-auto font-serif text-lg font-bold no-underline">
        Cobble Step
      </Link>
      <Find className={item} flip={flip} dark={dark} />
      {demo && (
        <Popover
          align="end"
          width={280}
          trigger={
            <button type="button" className={item}>
              <Clock size={15} aria-hidden />
              <span className="max-sm:sr-only">Clock: {whenText(demo.now, me.zone)}</span>
            </button>
          }
        >
          <h2 className="mb-1 !text-base">Move the clock</h2>
          <p className="mb-2 text-sm text-soft">
            Everything that asks for the time sees the moved one; ladders fire as they would. It only moves
            forward.
          </p>
          <div className="flex flex-wrap gap-1.5">
            {MOVES.map(([name, ms]) => (
              <Button key={name} small disabled={moving} onClick={() => move(ms)}>
                {name}
              </Button>
            ))}
          </div>
          <p role="status" className="mt-2 text-sm">
            {moving ? "Moving…" : sentence}
          </p>
        </Popover>
      )}
      <Notices className={item} unread={unread} zone={me.zone} />
      <button
        type="button"
        className={item}
        onClick={flip}
        aria-label={dark ? "Light colours" : "Dark colours"}
      >
        {dark ? <Sun size={15} aria-hidden /> : <Moon size={15} aria-hidden />}
      </button>
      <Popover
        align="end"
        width={340}
        trigger={
          <button type="button" className={item}>
            <UserRound size={15} aria-hidden />
            <span className="max-sm:sr-only">{me.name}</span>
          </button>
        }
      >
        <p className="mb-2">
          Signed in as <strong className="font-medium">{me.name}</strong>
        </p>
        {demo && (
          <form action={becomeAction}>
            <input
              type="hidden"
              name="from"
              value={path.startsWith("/requests") || path.startsWith("/workshop") ? path : ""}
            />
            <p className="mb-1 text-sm text-soft">Go on as somebody else (demo):</p>
            <ul className="mb-3 max-h-[46vh] overflow-y-auto border-y border-line">
              {demo.people.map((p) => (
                <li key={p.id}>
                  <button
                    name="person"
                    value={p.id}
                    className="flex w-full justify-between gap-3 rounded px-1.5 py-1 text-left hover:bg-slate-wash"
                    disabled={p.id === me.id}
                  >
                    <span>{p.name}</span>
                    <span className="text-sm text-soft">{p.job}</span>
                  </button>
                </li>
              ))}
            </ul>
          </form>
        )}
        <p className="mb-3">
          <Link className="link" href="/you" prefetch={false}>
            What is asked of you, your sessions, password and times away
          </Link>
        </p>
        {/* Who signs out leaves nothing behind for whoever uses this browser next. */}
        <form action={signOutAction} onSubmit={() => sweepUnkept(Date.now(), true)}>
          <Button small type="submit">
            Sign out
          </Button>
        </form>
      </Popover>
    </header>
  );
}
