"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useRef, useState } from "react";
import { classes, Kbd, Mark, whenText } from "@/ui";
import { AnswerTogether } from "./AnswerTogether";
import type { DeskItem } from "./deskItem";

/** Whether two stand together as rounds of one request: what they are of is said once. */
const isRoundBeside = (r: DeskItem, other: DeskItem | undefined): boolean =>
  other !== undefined &&
  r.about !== "" &&
  other.about !== "" &&
  r.number === other.number &&
  r.step === other.step;

/** The desk as a list one walks with the arrows: Enter opens, typing in the box narrows it. */
export function DeskList({ rows, zone }: { rows: DeskItem[]; zone: string }) {
  const router = useRouter();
  const [search, setSearch] = useState("");
  const list = useRef<HTMLUListElement>(null);
  const [marked, setMarked] = useState<readonly string[]>([]);
  // What has left the desk meanwhile, answered by a colleague, say, is chosen no more.
  const chosen = rows.filter((r) => r.withOthers && marked.includes(r.href));
  const key = chosen[0]?.withOthers?.key;
  const fits = (r: DeskItem) => r.withOthers !== null && (key === undefined || r.withOthers.key === key);
  const mark = (r: DeskItem) => {
    if (!fits(r)) return;
    const of = chosen.map((x) => x.href);
    setMarked(of.includes(r.href) ? of.filter((h) => h !== r.href) : [...of, r.href]);
  };
  const some = rows.some((r) => r.withOthers);
  const s = search.trim().toLowerCase();
  const shown = s
    ? rows.filter((r) =>
        `${r.number} ${r.title} ${r.process} ${r.step} ${r.about} ${r.requester}`.toLowerCase().includes(s),
      )
    : rows;
  const move = (by: number) => {
    const links = [...(list.current?.querySelectorAll("a") ?? [])];
    const at = links.indexOf(document.activeElement as HTMLAnchorElement);
    links[Math.max(0, Math.min(links.length - 1, at < 0 ? 0 : at + by))]?.focus();
  };
  return (
    <>
      <div
        onKeyDown={(e) => {
          if (e.key === "ArrowDown" || e.key === "ArrowUp") {
            e.preventDefault();
            move(e.key === "ArrowDown" ? 1 : -1);
          } else if (e.key === " " && (e.target as HTMLElement).tagName === "A") {
            const at = shown.find((r) => r.href === (e.target as HTMLElement).getAttribute("href"));
            if (!at?.withOthers) return;
            e.preventDefault();
            mark(at);
          } else if (e.key === "Enter" && (e.target as HTMLElement).id === "narrow" && shown[0])
            router.push(shown[0].href);
        }}
      >
        <div className="mb-2 flex flex-wrap items-center gap-3">
          <input
            id="narrow"
            type="search"
            aria-label="Narrow the desk"
            placeholder="Narrow by number, person, step…"
            className="input max-w-xs"
            value={search}
            onChange={(e) => setSearch(e.target.value)}
          />
          <span className="text-sm text-soft max-sm:hidden">
            <Kbd>↓</Kbd> <Kbd>↑</Kbd> to move, <Kbd>Enter</Kbd> to open
            {some && (
              <>
                , <Kbd>Space</Kbd> to choose several
              </>
            )}
          </span>
        </div>
        <ul ref={list} className="border-t border-line">
          {shown.map((r, i) => (
            <li
              key={r.href}
              className={classes(
                "border-line",
                isRoundBeside(r, shown[i + 1]) ? "" : "border-b",
                some && "grid grid-cols-[2rem_minmax(0,1fr)]",
              )}
            >
              {some && (
                <span className="self-center">
                  {r.withOthers && (
                    <label className="grid min-h-8 min-w-8 place-items-center max-sm:min-h-11">
                      <input
                        type="checkbox"
                        className="size-4 accent-[var(--moss)]"
                        aria-label={`Choose ${r.number}${r.about ? `, ${r.about}` : ""}`}
                        checked={chosen.includes(r)}
                        disabled={!fits(r)}
                        onChange={() => mark(r)}
                      />
                    </label>
                  )}
                </span>
              )}
              <Link
                href={r.href}
                prefetch={false}
                className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-6 px-1.5 py-2 no-underline hover:bg-sheet focus-visible:bg-slate-wash md:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)_11.5rem]"
              >
                {isRoundBeside(r, shown[i - 1]) ? (
                  <span className="min-w-0">
                    <span className="sr-only">
                      {r.title}, {r.number}, {r.step}
                    </span>
                  </span>
                ) : (
                  <span className="min-w-0">
                    <span className="block font-serif text-[1.06rem] leading-snug font-semibold">
                      {r.title}
                    </span>
                    <span className="text-sm text-soft">
                      {r.number} · {r.process} · from {r.requester}
                    </span>
                  </span>
                )}
                <span className="min-w-0 self-center max-md:order-3 max-md:col-span-2">
                  {!isRoundBeside(r, shown[i - 1]) && <span className="block">{r.step}</span>}
                  {r.about}
                  {r.coversFor && (
                    <span className="block text-sm text-soft">for {r.coversFor}, who is away</span>
                  )}
                  {r.shared && (
                    <span className="block text-sm text-soft">
                      {r.taken ? "taken by you" : "any of your group may take it"}
                    </span>
                  )}
                </span>
                <span className="self-center text-right text-sm">
                  {r.due === null ? (
                    <span className="text-soft">no limit</span>
                  ) : (
                    <>
                      <span className="block text-soft">{whenText(r.due, zone)}</span>
                      {r.left &&
                        (r.left.tone === "calm" ? (
                          <span>{r.left.text}</span>
                        ) : (
                          <Mark tone={r.left.tone}>{r.left.text}</Mark>
                        ))}
                    </>
                  )}
                </span>
              </Link>
            </li>
          ))}
        </ul>
        {shown.length === 0 && <p className="py-4 text-soft">Nothing on your desk matches “{search}”.</p>}
      </div>
      <AnswerTogether
        chosen={chosen}
        like={shown.filter((r) => key !== undefined && fits(r))}
        onChoose={(of) => setMarked(of.map((r) => r.href))}
      />
    </>
  );
}
