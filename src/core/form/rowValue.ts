import type { Value } from "../expression";

/**
 * A row as formulas see it: a context whose entries are worked out when somebody asks for them. So a column may read a
 * total over another column of the same table, wherever either stands on the sheet.
 */
export class RowValue extends Map<string, Value> {
  constructor(
    private readonly columns: readonly string[],
    private readonly cell: (column: string) => Value,
  ) {
    super();
  }
  override get(name: string): Value | undefined {
    return this.columns.includes(name) ? this.cell(name) : undefined;
  }
  override has(name: string): boolean {
    return this.columns.includes(name);
  }
  override get size(): number {
    return this.columns.length;
  }
  override keys(): MapIterator<string> {
    return this.columns.values();
  }
  override values(): MapIterator<Value> {
    return this.columns.map((c) => this.cell(c)).values();
  }
  override entries(): MapIterator<[string, Value]> {
    return this.columns.map((c): [string, Value] => [c, this.cell(c)]).values();
  }
  override [Symbol.iterator](): MapIterator<[string, Value]> {
    return this.entries();
  }
  override forEach(each: (value: Value, key: string, map: Map<string, Value>) => void): void {
    for (const [k, v] of this) each(v, k, this);
  }
}
