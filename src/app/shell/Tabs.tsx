"use client";
import Link from "next/link";
import { usePathname } from "next/navigation";
import { classes } from "@/ui";

/** Pages of one area beside each other. The first one stands for all that is under none of the others. */
export function Tabs({ label, pages }: { label: string; pages: readonly { href: string; name: string }[] }) {
  const path = usePathname();
  const here = pages.slice(1).find((p) => path === p.href || path.startsWith(`${p.href}/`)) ?? pages[0];
  return (
    <nav aria-label={label} className="mb-5 flex flex-wrap gap-x-5 gap-y-1 border-b border-line">
      {pages.map((p) => (
        <Link
          key={p.href}
          href={p.href}
          prefetch={false}
          aria-current={p === here ? "page" : undefined}
          className={classes(
            "-mb-px py-1.5 no-underline",
            p === here ? "border-b-2 border-moss font-medium" : "text-soft hover:text-ink",
          )}
        >
          {p.name}
        </Link>
      ))}
    </nav>
  );
}
