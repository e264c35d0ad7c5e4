"use client";
import type { ReactNode } from "react";
import type { SignatureShown } from "@/core/form";
import { readAt, useFilesAt } from "@/forms/parts";
import { dayTimeText } from "@/ui";

/** What was said of a signature: who gave it and when, and whether what was signed still stands. */
function Said({ signed, zone }: { signed: SignatureShown; zone: string }) {
  const others = signed.beyond ? "something you do not see" : "";
  const changed = [...signed.changed, others].filter(Boolean).join(", ");
  return (
    <>
      <p className="text-sm text-soft">
        {/* Whoever signed may have done so on somebody else's screen: what is known is whose account it was. */}
        Given with the account of {signed.by}, {dayTimeText(signed.at, zone)}
        {signed.hash && (
          <>
            {" · fingerprint "}
            <span className="font-mono" title={signed.hash}>
              {signed.hash.slice(0, 12)}
            </span>
          </>
        )}
      </p>
      {signed.same === true && <p className="text-sm text-soft">What was signed stands as it was.</p>}
      {signed.same === null && (
        <p className="text-sm text-soft">Some of what was signed has been blanked since.</p>
      )}
      {signed.same === false && (
        <p className="text-sm font-medium text-brick">
          {changed ? `Changed after signing: ${changed}.` : "What stands here is not what was signed."}
        </p>
      )}
    </>
  );
}

/** A signature as it is read: the picture, who gave it, and whether what was signed still stands. */
export function SignatureRead({
  label,
  file,
  name,
  signed,
  zone,
  again,
}: {
  label: string;
  file: string;
  /** What its picture is called; null where it is not there any more. */
  name: string | null;
  signed: SignatureShown | undefined;
  zone: string;
  /** By which it is given anew. */
  again?: ReactNode;
}) {
  const at = useFilesAt();
  const kept = signed?.value === file ? signed : undefined;
  if (name === null) return <p className="pt-[7px] text-soft">a signature that is not there any more</p>;
  return (
    <div className="flex flex-wrap items-end gap-x-4 gap-y-1">
      {/* On white in the dark as well: it is a picture of ink. */}
      <img
        src={readAt(at, file)}
        alt={`${label}: ${name.replace(/\.png$/, "")}`}
        className="h-24 max-w-full rounded border border-line bg-white object-contain"
      />
      <div className="min-w-0">
        {kept && <Said signed={kept} zone={zone} />}
        {again}
      </div>
    </div>
  );
}
