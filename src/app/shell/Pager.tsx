import Link from "next/link";
import { mostCounted } from "@/services";
import { buttonClass } from "@/ui";

/** Where one is in a long list, and the ways on. A list that is not counted to its end says so, and what to do. */
export function Pager({
  page,
  size,
  total,
  href,
  onward,
  what,
  search,
}: {
  page: number;
  size: number;
  total: number;
  href(page: number): string;
  /** Where the list goes on behind the last page that has a number, if it can. */
  onward?: string | null;
  what: string;
  /** What was searched for, if anything. */
  search?: string;
}) {
  if (total === 0) return null;
  const most = mostCounted(search);
  const more = total > most;
  const last = Math.ceil(Math.min(total, most) / size);
  const from = (page - 1) * size + 1;
  return (
    <nav aria-label={`Pages of ${what}`} className="mt-3 flex flex-wrap items-center gap-3 text-sm text-soft">
      <span>
        {from} to {Math.min(page * size, total)} of{" "}
        {more ? `more than ${most.toLocaleString("en-IE")}` : total.toLocaleString("en-IE")} {what}
        {more && page === last && !onward && ". Search, or sort another way, to come to the others"}
      </span>
      {page > 1 && (
        <Link className={buttonClass("plain", true)} href={href(page - 1)} rel="prev">
          Earlier page
        </Link>
      )}
      {page < last && (
        <Link className={buttonClass("plain", true)} href={href(page + 1)} rel="next">
          Next page
        </Link>
      )}
      {more && page === last && onward && (
        <Link className={buttonClass("plain", true)} href={onward} rel="next">
          Further on
        </Link>
      )}
    </nav>
  );
}

/** The ways on in a list so long that its pages have no numbers any more. */
export function PlacePager({
  first,
  earlier,
  next,
  shown,
  what,
}: {
  first: string;
  earlier: string | null;
  next: string | null;
  shown: number;
  what: string;
}) {
  return (
    <nav aria-label={`Pages of ${what}`} className="mt-3 flex flex-wrap items-center gap-3 text-sm text-soft">
      <span>
        {shown} {what}, far down the list
      </span>
      <Link className={buttonClass("plain", true)} href={first} rel="first">
        To the beginning
      </Link>
      {earlier && (
        <Link className={buttonClass("plain", true)} href={earlier} rel="prev">
          Earlier page
        </Link>
      )}
      {next && (
        <Link className={buttonClass("plain", true)} href={next} rel="next">
          Next page
        </Link>
      )}
    </nav>
  );
}
