import Link from "next/link";

/** Lines of a trail, and steps of a path, that a page shows at first. */
const AT_FIRST = 100;

/** How many a page shows: all of them where its reader has asked for that. */
export const shownOf = (said: string | string[] | undefined): number =>
  said === "all" ? Infinity : AT_FIRST;

/** What is not shown of a long list, with the way to it. */
export function Earlier({ n, what, href }: { n: number; what: string; href: string }) {
  if (n === 0) return null;
  return (
    <p className="py-1.5 text-sm text-soft">
      {n} earlier {what} not shown.{" "}
      <Link className="link" href={href} prefetch={false}>
        Show all
      </Link>
    </p>
  );
}
