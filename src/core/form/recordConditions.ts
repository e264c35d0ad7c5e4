import { Entity, isContext, isList, type Names, type Value } from "../expression";
import type { FormProgram } from "./compileForm";
import type { FieldPlace } from "./prepare";
import type { Facts } from "./facts";
import { findField, type Field } from "./field";
import type { FormValues } from "./formValues";
import { formAround } from "./overRecords";
import { askedKey, MOST_ASKED, type RecordsAsked } from "./recordsAsked";

/** Where a field stands: its path, its row if it is a column, and the names its formulas read. */
export interface Spot {
  path: string;
  names: Names;
  row?: number;
}

/** What a condition comes to; or why that cannot be told. */
type Come = { yes: boolean } | { why: string };

/** Of several each must be one: what is certain not to be says so, whatever cannot be told of the others. */
function foremost(come: readonly (Come | null)[]): Come | null {
  const bad = come.find((c) => c && "yes" in c && !c.yes) ?? come.find((c) => c && "why" in c);
  return bad ?? (come.includes(null) ? null : { yes: true });
}

/** Conditions of fields over records, for one evaluation of a form. */
export class RecordConditions {
  /** What has been asked of registers. */
  readonly asked: RecordsAsked[] = [];
  /** What of that is one search each. */
  private readonly searches = new Set<string>();

  constructor(
    private readonly program: FormProgram,
    private readonly values: FormValues,
    private readonly facts: Facts,
  ) {}

  /** Whether what was picked can be picked, by what is filled in now; null where the server alone can tell. */
  offered(f: Field, picked: Value, spot: Spot): Come | null {
    if (!isList(picked)) return this.oneOffered(f, picked, spot);
    return foremost(picked.map((one) => this.oneOffered(f, one, spot)));
  }

  private oneOffered(f: Field, picked: Value, spot: Spot): Come | null {
    const of = this.columnsOf(f, picked);
    if (of === undefined) return null;
    if (of === null) return { yes: false };
    const columns = this.program.columns[f.id]?.offered ?? [];
    const form = this.around(spot);
    const names: Names = { get: (name) => (columns.includes(name) ? of.get(name) : form.get(name)) };
    const is = this.values.call(f, "offered", names);
    // A browser has not read what a record links to that was picked just now.
    if (!is || (is.failed !== null && !this.facts.colleague)) return null;
    // What is empty meets no condition, as in the list.
    return is.failed === null ? { yes: is.value === true } : { why: is.failed };
  }

  /**
   * Whether there are records that meet the condition of a check; null until that is known, and where it reads what its
   * reader may not have: the server asks it when the form is sent.
   */
  there(f: Field, nth: number, spot: Spot): Come | null {
    if (!this.program.byId.get(f.id)?.[`check ${nth}`]) return null;
    const values = [...this.read(f, `check ${nth}`, spot)].map((name) => spot.names.get(name) ?? null);
    const key = askedKey(spot.path, String(nth), values);
    return this.ask({ key, field: f.id, about: { check: nth }, names: this.around(spot) });
  }

  /**
   * Whether each of these texts can be chosen from the column a field is about; null as above. What is alike is asked once,
   * whatever rows it stands in.
   */
  among(f: Field, texts: readonly string[], spot: Spot): Come | null {
    // A condition that was kept back is for the server to hold.
    if (f.offered && !this.program.byId.get(f.id)?.offered) return null;
    const read = [...this.read(f, "offered", spot)].filter((name) => name !== f.name);
    const alike = askedKey(
      f.id,
      "among",
      read.map((name) => spot.names.get(name) ?? null),
    );
    const names = this.around(spot);
    const come = texts.map((chosen) =>
      this.ask({ key: `${alike} ${JSON.stringify(chosen)}`, field: f.id, about: { chosen, alike }, names }),
    );
    return foremost(come);
  }

  private ask(asked: RecordsAsked): Come | null {
    this.searches.add("alike" in asked.about ? asked.about.alike : asked.key);
    if (this.searches.size > MOST_ASKED)
      return {
        why: `More than ${MOST_ASKED} such questions are asked about records. Send fewer lines at once.`,
      };
    this.asked.push(asked);
    const is = this.facts.recordsThere(asked);
    return is && "there" in is ? { yes: is.there } : is;
  }

  /** What a row that stays as it was worked out asks, once more. */
  again(asked: readonly RecordsAsked[]) {
    for (const a of asked) this.ask(a);
  }

  /** The names a condition reads of the form; of other rows than its own by their table. */
  private read(f: Field, at: FieldPlace, spot: Spot): ReadonlySet<string> {
    const { reads } = this.program;
    const own = spot.row === undefined ? null : spot.path.split("/")[0]!;
    const names = reads.directly(f.id, at).map((x) => {
      const table = reads.tableOf(x.id);
      return table === null || table === own ? x.name : reads.nameOf(table);
    });
    return new Set(names);
  }

  /**
   * What a condition reads of somebody or something that was picked; null for whoever is not here any more, undefined where
   * that is not known here.
   */
  private columnsOf(f: Field, picked: Value): ReadonlyMap<string, Value> | null | undefined {
    if (!isContext(picked)) return undefined;
    if (this.program.kinds[f.kind].idOf !== "person") return picked;
    return picked instanceof Entity ? this.facts.colleague?.(picked.id) : undefined;
  }

  /** What a condition reads of the form. */
  private around({ names, path, row }: Spot): Names {
    const { fields } = this.program;
    const table = row === undefined ? undefined : findField(fields, path.split("/")[0]!)?.field;
    return formAround(names, fields, table);
  }
}
