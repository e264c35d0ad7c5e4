import Link from "next/link";
import { buttonClass, PageHeader } from "@/ui";

/** A page that is not there, or not for this person: the same answer for both. */
export function Missing({
  sentence,
  back,
  title = "Not here",
}: {
  sentence: string;
  back: { href: string; name: string };
  title?: string;
}) {
  return (
    <>
      <PageHeader title={title} lead={sentence} />
      <Link className={buttonClass()} href={back.href}>
        Go to {back.name}
      </Link>
    </>
  );
}
