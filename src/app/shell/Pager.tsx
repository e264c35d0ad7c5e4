import Link from "next/link";
import { buttonClass } from "@/ui";

/** Where one is in a long list, and the ways on. */
export function Pager({
  page,
  size,
  total,
  href,
  what,
}: {
  page: number;
  size: number;
  total: number;
  href(page: number): string;
  what: string;
}) {
  if (total === 0) return null;
  const last = Math.ceil(total / size);
  const from = (page - 1) * size + 1;
  return (
    <nav aria-label={`Pages of ${what}`} className="mt-3 flex flex-wrap items-center gap-3 text-sm text-soft">
      <span>
        {from} to {Math.min(page * size, total)} of {total.toLocaleString("en-IE")} {what}
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
    </nav>
  );
}
