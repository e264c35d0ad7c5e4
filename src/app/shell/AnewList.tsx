import type { AnewSeen } from "@/web";

/** What values that are read anew were and come to, one in a row. */
export function AnewList({ anew: { changes, stays } }: { anew: AnewSeen }) {
  return (
    <>
      {changes.length > 0 && (
        <div className="max-h-[50vh] overflow-y-auto">
          <table className="w-full text-left">
            <thead>
              <tr className="border-b border-line-strong text-sm text-soft">
                <th className="py-1 pr-4 font-normal">Value</th>
                <th className="py-1 pr-4 text-right font-normal">until now</th>
                <th className="py-1 text-right font-normal">from now on</th>
              </tr>
            </thead>
            <tbody className="tabular-nums">
              {changes.map((c) => (
                <tr key={c.path} className="border-b border-line align-baseline">
                  <th scope="row" className="py-1.5 pr-4 font-normal">
                    {c.name}
                  </th>
                  <td className="py-1.5 pr-4 text-right text-soft">{c.from || "empty"}</td>
                  <td className="py-1.5 text-right font-semibold">{c.to || "empty"}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {stays.length > 0 && (
        <p className="mt-3 border-l-[3px] border-lichen pl-3 text-sm">
          Cannot be read anew, and {stays.length === 1 ? "stays as it is" : "stay as they are"}:{" "}
          {stays.join(", ")}.
        </p>
      )}
    </>
  );
}
