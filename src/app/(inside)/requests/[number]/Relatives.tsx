import Link from "next/link";
import type { RequestView } from "@/services";
import { RequestState } from "../../../shell/RequestState";

/** What has started a request, and what it has started: each a line that leads there. */
export function Relatives({
  by,
  started,
}: {
  by: RequestView["startedBy"];
  started: RequestView["started"];
}) {
  if (!by && started.length === 0) return null;
  return (
    <>
      <h2 className="mt-7 mb-2">Other requests</h2>
      {by && (
        <p className="border-t border-line py-1.5">
          Started by{" "}
          {by.request ? (
            <Link className="link" href={`/requests/${by.request.number}`} prefetch={false}>
              {by.request.number}
            </Link>
          ) : (
            "a request"
          )}{" "}
          of {by.process}
        </p>
      )}
      {started.length > 0 && (
        <ul>
          {started.map((r) => (
            <li key={r.number} className="border-t border-line py-1.5">
              <Link className="link" href={`/requests/${r.number}`} prefetch={false}>
                {r.number}
              </Link>{" "}
              {r.title}
              <span className="mt-0.5 flex flex-wrap items-center gap-x-2 text-sm text-soft">
                <RequestState
                  status={r.status}
                  result={r.result?.name ?? null}
                  tone={r.result?.tone ?? null}
                />
                {r.awaited ? "its end is waited for" : `started as ${r.process}`}
              </span>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
