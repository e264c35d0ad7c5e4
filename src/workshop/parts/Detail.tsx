import type { ReactNode } from "react";

/** One line of what is set up below a row: what it is, and where it is said. Stands in a grid of two columns. */
export function Detail({ says, htmlFor, children }: { says: string; htmlFor?: string; children: ReactNode }) {
  const Name = htmlFor ? "label" : "span";
  return (
    <>
      <Name className="self-start pt-1.5 text-sm text-soft" {...(htmlFor ? { htmlFor } : {})}>
        {says}
      </Name>
      {children}
    </>
  );
}
