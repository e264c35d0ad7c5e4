import { checkFormula, typeInScopes } from "./check";
import type { Node } from "./ast";
import { compile, evaluate, type Program } from "./compile";
import type { Reads } from "./resolve";
import { asDay, constant, kindOf, Names, once, type Bind, type Kind, type Part } from "./sqlParts";
import { momentsBeside } from "./sqlMoments";
import type { FormulaProblem } from "./problem";
import type { Env } from "./run";
import { typeInWords, YESNO, type Scope, type Type } from "./types";
import type { Value } from "./values";

/** A column as SQL, of the kind the formula's names say it has. Empty text must come as null. */
export interface SqlColumn {
  sql: string;
  type: Type;
  /** What an index can be asked where it must be this value, which is not empty; absent where `sql` can be. */
  indexed?(value: string): string;
}
/** Finds the column a path of names means (`Borrower.standing`); null where no column holds it. */
export type SqlColumns = (path: readonly string[]) => SqlColumn | null;

/** A condition as SQL. What it reads outside the register is worked out when it is bound, by the same closures. */
export interface SqlCondition {
  /** @param bind puts a value among the query's parameters and gives its place, `$3` for example */
  where(env: Env, bind: Bind): string;
}

class CannotCompile extends Error {
  constructor(readonly problem: FormulaProblem) {
    super(problem.message);
  }
}

/**
 * A condition over the columns of a register as a WHERE with bound parameters, true for just those rows for which
 * the closure gives true. Numbers are PostgreSQL numerics cut to 34 digits after every operation by the function
 * decimal34 (migration 0004).
 * @param columns types of the register's columns by name, beside the names outside
 * @returns the condition, or the part that cannot be one, named
 */
export function sqlCondition(
  text: string,
  columns: Scope,
  outside: Scope,
  find: SqlColumns,
): { ok: true; condition: SqlCondition } | { ok: false; problems: FormulaProblem[] } {
  const scope = { ...outside, ...columns };
  const { ast, problems, reads } = checkFormula(text, scope, YESNO);
  if (!ast || problems.length > 0) return { ok: false, problems };
  try {
    const part = new Translator(text, reads, columns, outside, find).condition(ast);
    return { ok: true, condition: { where: (env, bind) => part.emit(env, bind) } };
  } catch (e) {
    if (e instanceof CannotCompile) return { ok: false, problems: [e.problem] };
    throw e;
  }
}

class Translator {
  private readonly names = new Names();
  constructor(
    private readonly text: string,
    private readonly reads: Reads,
    private readonly columns: Scope,
    private readonly outside: Scope,
    private readonly find: SqlColumns,
  ) {}

  private cannot(n: Node, why: string): never {
    throw new CannotCompile({
      code: "not-supported",
      from: n.from,
      to: n.to,
      message: `"${this.text.slice(n.from, n.to)}" cannot be searched for: ${why}.`,
    });
  }

  condition(n: Node): Part {
    const p = this.part(n);
    if (p.kind !== "yesno" && p.kind !== "null") this.cannot(n, "it is no condition");
    return p;
  }

  private readsColumns(n: Node): boolean {
    return this.reads.references.some(
      (r) =>
        r.from >= n.from &&
        r.to <= n.to &&
        (r.target.t === "name" || (r.target.t === "unknown" && r.target.outside)) &&
        Object.hasOwn(this.columns, r.name),
    );
  }

  private part(n: Node): Part {
    if (!this.readsColumns(n)) return this.outsidePart(n);
    switch (n.k) {
      case "name":
        return this.column(n, [n.name]);
      case "path":
        return this.path(n);
      case "and":
      case "or": {
        const [l, r] = [this.condition(n.left), this.condition(n.right)];
        return { kind: "yesno", emit: (e, b) => `(${l.emit(e, b)} ${n.k} ${r.emit(e, b)})` };
      }
      case "cmp":
        return this.compare(n, n.op, this.part(n.left), this.part(n.right));
      case "between": {
        const [low, high] = [this.part(n.low), this.part(n.high)];
        return once(this.part(n.of), this.names, (v) =>
          both(this.compare(n, ">=", v, low), this.compare(n, "<=", v, high)),
        );
      }
      case "in": {
        return once(this.part(n.of), this.names, (v) => {
          const tests = n.tests.map((t) => this.test(t, v));
          return { kind: "yesno", emit: (e, b) => `(${tests.map((t) => t.emit(e, b)).join(" or ")})` };
        });
      }
      case "if": {
        const c = this.condition(n.cond);
        const [t, o] = [asDay(this.part(n.then)), asDay(this.part(n.else))];
        if (t.kind !== o.kind && t.kind !== "null" && o.kind !== "null")
          this.cannot(n, "its two sides are of different kinds");
        const kind = t.kind === "null" ? o.kind : t.kind;
        if (kind === "moment") this.cannot(n, "one of several moments has no counterpart in a search");
        if (kind === "null") return { kind, emit: () => "null" };
        return {
          kind,
          emit: (e, b) => `(case when ${c.emit(e, b)} then ${t.emit(e, b)} else ${o.emit(e, b)} end)`,
        };
      }
      case "neg": {
        const v = this.part(n.of);
        if (v.kind !== "number" && v.kind !== "days" && v.kind !== "months")
          this.cannot(n, "only numbers have a minus");
        return { kind: v.kind, emit: (e, b) => `(- ${v.emit(e, b)})` };
      }
      case "arith":
        return this.arith(n);
      case "call":
        return this.call(n);
      default:
        return this.cannot(n, "this way of writing has no counterpart in a search");
    }
  }

  /** What reads no column is worked out once, by the closure, and sent along. */
  private outsidePart(n: Node): Part {
    const type = typeInScopes(n, this.text, this.outside);
    const kind = kindOf(type);
    if (!kind) this.cannot(n, `a search cannot hold ${typeInWords(type)}`);
    const program: Program = compile(n);
    // Written more than once it is still worked out once: its work is counted, and may be all that is allowed.
    const known = new WeakMap<Env, { value: Value }>();
    const value = (env: Env): Value => {
      let v = known.get(env);
      if (!v) known.set(env, (v = { value: evaluate(program, env) }));
      return v.value;
    };
    return {
      kind,
      simple: true,
      sent: true,
      emit: (env, bind) => constant(kind, value(env), bind),
      ...(kind === "moment" ? { moment: value } : {}),
      ...(kind === "record"
        ? { pointer: (env: Env, bind: Bind) => constant("pointer", value(env), bind) }
        : {}),
      ...(kind === "date" ? { day: (env: Env, bind: Bind) => constant("day", value(env), bind) } : {}),
    };
  }

  private column(n: Node, path: readonly string[]): Part {
    const c = this.find(path);
    const kind = c && (c.type.t === "list" ? "choices" : kindOf(c.type));
    if (!c || !kind) this.cannot(n, "no column holds it");
    const { indexed } = c;
    return {
      kind,
      emit: () => c.sql,
      simple: true,
      // The keys of registers hold nothing that would end the text.
      ...(c.type.t === "context" && c.type.what !== undefined
        ? { pointer: () => `('${c.type.t === "context" ? c.type.what : ""}/' || ${c.sql})` }
        : {}),
      ...(indexed ? { indexed: (v: string) => indexed(v) } : {}),
    };
  }

  private path(n: Extract<Node, { k: "path" }>): Part {
    const names: string[] = [n.name];
    let at: Node = n.of;
    while (at.k === "path") {
      names.unshift(at.name);
      at = at.of;
    }
    if (at.k === "name") {
      const all = at.name === "item" ? names : [at.name, ...names];
      const c = this.find(all);
      if (c) return this.column(n, all);
    }
    const of = this.part(n.of);
    if ((of.kind === "date" || of.kind === "day") && ["year", "month", "day", "weekday"].includes(n.name))
      return { kind: "number", emit: (e, b) => `day_part(${asDay(of).emit(e, b)}, '${n.name}')` };
    return this.cannot(n, "no column holds it");
  }

  private compare(n: Node, op: string, left: Part, right: Part): Part {
    const [l, r] = alike(left, right);
    const kind = l.kind === "null" ? r.kind : l.kind;
    if (l.kind !== r.kind && l.kind !== "null" && r.kind !== "null")
      this.cannot(n, "its two sides are of different kinds");
    if (kind === "choices") return this.compareChoices(n, op, l, r);
    if (l.moment ?? r.moment) return this.compareMoments(n, op, l, r);
    if (op === "=" || op === "!=")
      return {
        kind: "yesno",
        emit: (e, b) => {
          const [x, y] = [l.emit(e, b), r.emit(e, b)];
          // "Not distinct" is asked of no index; where nothing is empty on the one side, this comes to the same.
          if (op === "=" && l.simple && !l.sent && r.sent && !y.startsWith("null") && !x.startsWith("("))
            return `(${l.indexed ? `${l.indexed(y)} and ` : ""}${x} = ${y} and ${x} is not null)`;
          return `(${x} is ${op === "=" ? "not " : ""}distinct from ${y})`;
        },
      };
    if (kind === "yesno" || kind === "record" || kind === "pointer") this.cannot(n, "it has no order");
    // Texts in the order of their code points, as formulas have it, whatever the database's own order is.
    const order = kind === "text" ? ` collate "C"` : "";
    return { kind: "yesno", emit: (e, b) => `(${l.emit(e, b)}${order} ${op} ${r.emit(e, b)})` };
  }

  /** Several choices are a list, also where none is chosen, and so never nothing. */
  private compareChoices(n: Node, op: string, l: Part, r: Part): Part {
    if (l.kind === r.kind || (op !== "=" && op !== "!="))
      this.cannot(n, "several choices are looked for one by one, by list contains()");
    return { kind: "yesno", emit: () => (op === "=" ? "false" : "true") };
  }

  /** One side is from outside, and may stand in a zone: the columns beside it do then. */
  private compareMoments(n: Node, op: string, l: Part, r: Part): Part {
    const [local, sent] = l.moment ? [r, l] : [l, r];
    if (local.moment) this.cannot(n, "it reads no column");
    const sql = op === "=" ? "is not distinct from" : op.replace("!=", "is distinct from");
    return {
      kind: "yesno",
      emit: (e, b) => {
        const [x, y] = momentsBeside(local.emit(e, b), sent.moment!(e), b);
        return sent === r ? `(${x} ${sql} ${y})` : `(${y} ${sql} ${x})`;
      },
    };
  }

  private test(t: Node, v: Part): Part {
    if (t.k === "test") return this.compare(t, t.op, v, this.part(t.right));
    if (t.k === "range") {
      const ends = (low: Part, high: Part): Part => {
        const inside = both(
          this.compare(t, t.includesLow ? ">=" : ">", v, low),
          this.compare(t, t.includesHigh ? "<=" : "<", v, high),
        );
        if (isWritten(t.low) && isWritten(t.high)) return inside;
        // A range with an empty end is nothing, and only nothing equals that.
        return {
          kind: "yesno",
          emit: (e, b) =>
            `(case when ${low.emit(e, b)} is null or ${high.emit(e, b)} is null then ${v.emit(e, b)} is null else ${inside.emit(e, b)} end)`,
        };
      };
      return once(this.part(t.low), this.names, (low) =>
        once(this.part(t.high), this.names, (high) => ends(low, high)),
      );
    }
    if (t.k === "list") {
      const items = t.items.map((i) => this.test(i, v));
      return {
        kind: "yesno",
        emit: (e, b) => (items.length === 0 ? "false" : `(${items.map((i) => i.emit(e, b)).join(" or ")})`),
      };
    }
    const value = this.part(t);
    if (value.kind === "yesno" && v.kind !== "yesno")
      this.cannot(t, "a condition stands where a value is meant");
    // A test that holds is enough where there is nothing to hold it against, as in a formula.
    if (value.kind === "yesno" && v.kind === "yesno")
      return once(value, this.names, (x) => ({
        kind: "yesno",
        emit: (e, b) =>
          `(case when ${v.emit(e, b)} is null then coalesce(${x.emit(e, b)}, true) else ${v.emit(e, b)} is not distinct from ${x.emit(e, b)} end)`,
      }));
    return this.compare(t, "=", v, value);
  }

  private arith(n: Extract<Node, { k: "arith" }>): Part {
    const [l, r] = [this.part(n.left), this.part(n.right)];
    const { op } = n;
    if (l.kind === "number" && r.kind === "number" && (op === "+" || op === "-" || op === "*"))
      return { kind: "number", emit: (e, b) => `decimal34(${l.emit(e, b)} ${op} ${r.emit(e, b)})` };
    const [from, to] = [asDay(l), asDay(r)];
    if (from.kind === "day" && to.kind === "day" && op === "-")
      return { kind: "days", emit: (e, b) => `((${from.emit(e, b)} - ${to.emit(e, b)})::numeric * 86400)` };
    if (from.kind === "day" && r.kind === "days" && (op === "+" || op === "-"))
      return {
        kind: "day",
        emit: (e, b) =>
          `day_known(${from.emit(e, b)} ${op} ${op === "+" ? "floor" : "ceil"}(${r.emit(e, b)} / 86400))`,
      };
    if (from.kind === "day" && r.kind === "months" && (op === "+" || op === "-"))
      return {
        kind: "day",
        emit: (e, b) => `day_plus_months(${from.emit(e, b)}, ${op === "-" ? "- " : ""}${r.emit(e, b)})`,
      };
    return this.cannot(
      n,
      `"${op}" works here on numbers and dates only${op === "/" ? ", and division would be cut off elsewhere than in a formula" : ""}`,
    );
  }

  private call(n: Extract<Node, { k: "call" }>): Part {
    if (n.names) this.cannot(n, "inputs by name have no counterpart in a search");
    const args = n.args.map((a) => this.part(a));
    const is = (...kinds: Kind[]) =>
      args.length === kinds.length && args.every((a, i) => a.kind === kinds[i]);
    const give = (kind: Kind, sql: (...a: string[]) => string): Part => ({
      kind,
      emit: (e, b) => sql(...args.map((a) => a.emit(e, b))),
    });
    switch (n.fn) {
      case "not":
        if (is("yesno")) return give("yesno", (a) => `(not ${a})`);
        break;
      case "is empty":
        if (args.length === 1)
          return give("yesno", (a) =>
            args[0]!.kind === "text" ? `(coalesce(${a}, '') = '')` : `(${a} is null)`,
          );
        break;
      case "date":
        // The day its clock shows; what is sent was worked out as a whole.
        if (is("moment") && !args[0]!.moment) return give("day", (a) => `floor(${a} / 86400)::bigint`);
        break;
      case "list contains":
        // A line is looked for between lines; an empty column holds none.
        if (is("choices", "text"))
          return give(
            "yesno",
            (a, b) =>
              `coalesce(position(chr(10) in ${b}) = 0 and position(chr(10) || ${b} || chr(10) in chr(10) || ${a} || chr(10)) > 0, false)`,
          );
        break;
      case "contains":
        if (is("text", "text")) return give("yesno", (a, b) => `(position(${b} in ${a}) > 0)`);
        break;
      case "starts with":
        if (is("text", "text")) return give("yesno", (a, b) => `starts_with(${a}, ${b})`);
        break;
      case "ends with":
        if (is("text", "text"))
          return once(args[1]!, this.names, (end) => ({
            kind: "yesno",
            emit: (e, b) =>
              `(right(${args[0]!.emit(e, b)}, char_length(${end.emit(e, b)})) = ${end.emit(e, b)})`,
          }));
        break;
      case "string length":
        if (is("text")) return give("number", (a) => `char_length(${a})::numeric`);
        break;
      case "lower case":
        if (is("text")) return give("text", (a) => `(lower(${a} collate "und-x-icu") collate "C")`);
        break;
      case "upper case":
        if (is("text")) return give("text", (a) => `(upper(${a} collate "und-x-icu") collate "C")`);
        break;
      case "abs":
        if (is("number")) return give("number", (a) => `abs(${a})`);
        break;
      case "floor":
        if (is("number")) return give("number", (a) => `floor(${a})`);
        break;
      case "ceiling":
        if (is("number")) return give("number", (a) => `ceil(${a})`);
        break;
    }
    return this.cannot(n, "this function, or these inputs for it, have no counterpart in a search");
  }
}

const isWritten = (n: Node): boolean => n.k === "num" || n.k === "str" || n.k === "at";

/** Two parts that are held against each other: where one is a date that was worked out, both by their days. */
const alike = (a: Part, b: Part): [Part, Part] => {
  if (a.kind === "pointer" || b.kind === "pointer") return [asPointer(a), asPointer(b)];
  return a.kind === "day" || b.kind === "day" ? [asDay(a), asDay(b)] : [a, b];
};

/** A record beside one that may be of several registers: an id alone would be that of others as well. */
const asPointer = (p: Part): Part =>
  p.pointer ? { kind: "pointer", emit: p.pointer, ...(p.sent ? { sent: p.sent, simple: true } : {}) } : p;

const both = (a: Part, c: Part): Part => ({
  kind: "yesno",
  emit: (e, b) => `(${a.emit(e, b)} and ${c.emit(e, b)})`,
});
