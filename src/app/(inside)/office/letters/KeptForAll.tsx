import type { KeptForAll as Kept } from "@/services";
import { whenText } from "@/ui";
import { TakeAway } from "./TakeAway";

/**
 * What is kept for all processes, each with who has taken it.
 * @param earlier what is said of a process that has not taken the last of it: "earlier words"
 */
export function KeptForAll({
  all,
  what,
  earlier,
  zone,
}: {
  all: readonly Kept[];
  what: "letter" | "ladder" | "template";
  earlier: string;
  zone: string;
}) {
  return all.map((k) => (
    <section
      key={k.id}
      aria-label={k.name}
      className="flex flex-wrap items-start gap-4 border-t border-line py-3"
    >
      <div className="min-w-0 flex-1">
        <h3 className="!text-base break-words">{k.name}</h3>
        <p className="text-soft">
          Version {k.version}, kept {whenText(k.at, zone)}
          {k.by && `, by ${k.by}`}
          {k.from && `, from ${k.from}`}.
        </p>
        <p>
          {k.taken.length === 0 ? (
            <span className="text-soft">No process has it.</span>
          ) : (
            <>
              In{" "}
              {k.taken.map((t, i) => (
                <span key={i}>
                  {i > 0 && ", "}
                  {t.name}
                  {t.version < k.version && <span className="text-lichen"> ({earlier})</span>}
                </span>
              ))}
              .
            </>
          )}
        </p>
      </div>
      <TakeAway id={k.id} name={k.name} what={what} />
    </section>
  ));
}
