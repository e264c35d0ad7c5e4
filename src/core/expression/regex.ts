/**
 * Regular expressions as XPath and XQuery Functions 3.1, section 5.6, has them (DMN 1.5, 10.3.4.3), run as a set of
 * threads over the text (R. Pike, K. Thompson), so that time grows with text times pattern and no pattern hangs.
 * JavaScript's own engine backtracks, and the packages that do not would be half of what a browser loads for formulas.
 */
type Matcher = (c: string) => boolean;
type Step =
  | { op: "char"; is: Matcher }
  | { op: "split"; first: number; second: number }
  | { op: "jump"; to: number }
  | { op: "save"; slot: number }
  | { op: "start" | "end" }
  | { op: "match" };

export interface Regex {
  groups: number;
  /** Positions of the first match at or after `from`: [start, end, group 1 start, end, …]; null when there is none. */
  exec(text: readonly string[], from: number, work: Work): number[] | null;
}
/** Told of steps before they are made, so that the caller's allowance covers them. */
export interface Work {
  spend(steps: number): void;
}

const MAX_STEPS = 2000;
const MAX_REPEAT = 500;
const MAX_NESTING = 50;

class BadPattern extends Error {}

/** The compiled pattern, or a sentence saying what is wrong with it. */
export function compileRegex(pattern: string, flags: string): Regex | string {
  const odd = [...flags].find((f) => !"smixq".includes(f));
  if (odd) return `"${odd}" is no flag; there are s, m, i, x and q.`;
  try {
    return new Compiler(pattern, flags).regex();
  } catch (e) {
    if (e instanceof BadPattern) return e.message;
    throw e;
  }
}

type Tree =
  | { k: "char"; is: Matcher }
  | { k: "all"; parts: Tree[] }
  | { k: "either"; parts: Tree[] }
  | { k: "group"; of: Tree; slot: number | null }
  | { k: "repeat"; of: Tree; least: number; most: number; lazy: boolean }
  | { k: "start" | "end" };

/** Flag x: spaces go before anything is read, even behind a "\", but not inside [ ] (XPath 5.6.2). */
function withoutSpaces(pattern: string): string[] {
  let depth = 0;
  let escaped = false;
  return [...pattern].filter((c) => {
    if (depth === 0 && /[ \t\n\r]/.test(c)) return false;
    if (!escaped && c === "[") depth++;
    if (!escaped && c === "]" && depth > 0) depth--;
    escaped = c === "\\" && !escaped;
    return true;
  });
}

class Compiler {
  private at = 0;
  private groups = 0;
  private depth = 0;
  private readonly chars: string[];
  private readonly fold: boolean;
  constructor(
    pattern: string,
    private readonly flags: string,
  ) {
    this.chars = flags.includes("x") && !flags.includes("q") ? withoutSpaces(pattern) : [...pattern];
    this.fold = flags.includes("i");
  }

  regex(): Regex {
    const tree = this.flags.includes("q")
      ? { k: "all" as const, parts: this.chars.map((c) => this.literal(c)) }
      : this.either();
    if (this.at < this.chars.length && !this.flags.includes("q"))
      throw new BadPattern(`The pattern has a ")" too many.`);
    const steps: Step[] = [];
    const add = (s: Step) => {
      if (steps.length >= MAX_STEPS) throw new BadPattern("The pattern is too large.");
      return steps.push(s) - 1;
    };
    this.emit(tree, add, steps);
    add({ op: "match" });
    return {
      groups: this.groups,
      exec: (text, from, work) => run(steps, this.groups, this.flags.includes("m"), text, from, work),
    };
  }

  private peek = () => this.chars[this.at];
  private take(c: string): boolean {
    if (this.peek() !== c) return false;
    this.at++;
    return true;
  }

  private either(): Tree {
    if (++this.depth > MAX_NESTING)
      throw new BadPattern(`Brackets of a pattern may stand ${MAX_NESTING} deep.`);
    const parts = [this.all()];
    while (this.take("|")) parts.push(this.all());
    this.depth--;
    return parts.length === 1 ? parts[0]! : { k: "either", parts };
  }
  private all(): Tree {
    const parts: Tree[] = [];
    for (;;) {
      const c = this.peek();
      if (c === undefined || c === "|" || c === ")") return { k: "all", parts };
      parts.push(this.repeated(this.atom()));
    }
  }
  private repeated(of: Tree): Tree {
    const c = this.peek();
    let least: number;
    let most: number;
    if (c === "*" || c === "+" || c === "?") {
      [least, most] = [c === "+" ? 1 : 0, c === "?" ? 1 : Infinity];
      this.at++;
    } else if (c === "{") {
      const m = /^\{(\d{1,5})(,(\d{1,5})?)?\}/.exec(this.chars.slice(this.at, this.at + 16).join(""));
      if (!m) throw new BadPattern(`A "{" needs numbers and a "}", for example: {2,3}.`);
      least = Number(m[1]);
      if (m[2] === undefined) most = least;
      else most = m[3] === undefined ? Infinity : Number(m[3]);
      if (least > most) throw new BadPattern(`${m[0]} has more at least than at most.`);
      if (least > MAX_REPEAT || (most !== Infinity && most > MAX_REPEAT))
        throw new BadPattern(`A repeat goes up to ${MAX_REPEAT}; ${m[0]} goes further.`);
      this.at += m[0].length;
    } else return of;
    const lazy = this.take("?");
    if (["*", "+", "?", "{"].includes(this.peek() ?? ""))
      throw new BadPattern(`"${this.peek()}" has nothing before it to repeat.`);
    return { k: "repeat", of, least, most, lazy };
  }
  private atom(): Tree {
    const c = this.chars[this.at++]!;
    switch (c) {
      case "(": {
        let slot: number | null = null;
        if (this.peek() === "?" && this.chars[this.at + 1] === ":") this.at += 2;
        else slot = ++this.groups;
        const of = this.either();
        if (!this.take(")")) throw new BadPattern(`The pattern has a "(" without its ")".`);
        return { k: "group", of, slot };
      }
      case "[":
        return { k: "char", is: this.class() };
      case ".": {
        const all = this.flags.includes("s");
        return { k: "char", is: (x) => all || (x !== "\n" && x !== "\r") };
      }
      case "^":
        return { k: "start" };
      case "$":
        return { k: "end" };
      case "\\":
        return { k: "char", is: this.escape(false) };
      case "*":
      case "+":
      case "?":
      case "{":
        throw new BadPattern(`"${c}" has nothing before it to repeat.`);
      case "}":
      case "]":
        throw new BadPattern(`"${c}" stands alone; as a plain character write \\${c}.`);
      default:
        return this.literal(c);
    }
  }
  private literal(c: string): Extract<Tree, { k: "char" }> {
    return { k: "char", is: this.same(c) };
  }
  private same(c: string): Matcher {
    if (!this.fold) return (x) => x === c;
    const [low, up] = [c.toLowerCase(), c.toUpperCase()];
    return (x) => x === c || x.toLowerCase() === low || x.toUpperCase() === up;
  }

  private escape(inClass: boolean): Matcher {
    const c = this.chars[this.at++];
    if (c === undefined) throw new BadPattern(`A "\\" needs a character behind it.`);
    const plain: Record<string, string> = { n: "\n", r: "\r", t: "\t" };
    if (Object.hasOwn(plain, c)) return this.same(plain[c]!);
    const sets: Record<string, RegExp> = {
      d: /\p{Nd}/u,
      s: /[ \t\n\r]/,
      w: /[^\p{P}\p{Z}\p{C}]/u,
      i: /[\p{L}_:]/u,
      c: /[\p{L}\p{Nd}\p{M}._:\-\u00b7]/u,
    };
    const set = Object.hasOwn(sets, c.toLowerCase()) ? sets[c.toLowerCase()]! : null;
    if (set) return c === c.toLowerCase() ? (x) => set.test(x) : (x) => !set.test(x);
    if (c === "p" || c === "P") {
      const m = /^\{(\^?)([A-Za-z]\w{0,30})\}/.exec(this.chars.slice(this.at, this.at + 40).join(""));
      const test =
        m && /^(L[ultmo]?|M[nce]?|N[dlo]?|P[cdseifo]?|Z[slp]?|S[mcko]?|C[cfon]?)$/.test(m[2]!)
          ? new RegExp(`\\p{${m[2]}}`, "u")
          : null;
      if (!m || !test)
        throw new BadPattern(`\\${c} needs a kind of character in braces, for example: \\p{Lu}.`);
      this.at += m[0].length;
      return c === "p" ? (x) => test.test(x) : (x) => !test.test(x);
    }
    if (/\d/.test(c) && !inClass)
      throw new BadPattern(`A pattern cannot refer back to what it found (\\${c}).`);
    if (!/[\\|.?*+(){}$^[\]-]/.test(c)) throw new BadPattern(`"\\${c}" means nothing in a pattern.`);
    return this.same(c);
  }

  /** Behind the "[": single characters, spans, escapes, and a class taken away: [a-z-[aeiou]]. */
  private class(): Matcher {
    if (++this.depth > MAX_NESTING)
      throw new BadPattern(`Brackets of a pattern may stand ${MAX_NESTING} deep.`);
    const not = this.peek() === "^";
    if (not) this.at++;
    const parts: Matcher[] = [];
    let less: Matcher | null = null;
    for (let first = true; ; first = false) {
      const c = this.chars[this.at++];
      if (c === undefined) throw new BadPattern(`The pattern has a "[" without its "]".`);
      if (c === "]" && !first) break;
      if (c === "-" && this.peek() === "[" && !first) {
        this.at++;
        less = this.class();
        if (this.chars[this.at++] !== "]")
          throw new BadPattern(`What is taken away stands last: [a-z-[aeiou]].`);
        break;
      }
      if (c === "[" || c === "]") throw new BadPattern(`Inside [ ] write \\${c} for the character itself.`);
      if (c === "\\") {
        const from = this.chars[this.at]!;
        const is = this.escape(true);
        if (
          this.peek() === "-" &&
          this.chars[this.at + 1] !== "]" &&
          this.chars[this.at + 1] !== "[" &&
          /[\\|.?*+(){}$^[\]-]/.test(from)
        )
          parts.push(this.span(from));
        else parts.push(is);
      } else if (
        this.peek() === "-" &&
        this.chars[this.at + 1] !== "]" &&
        this.chars[this.at + 1] !== "[" &&
        this.chars[this.at + 1] !== undefined
      )
        parts.push(this.span(c));
      else parts.push(this.same(c));
    }
    this.depth--;
    const has: Matcher = (x) => parts.some((p) => p(x));
    const taken = less;
    return (x) => has(x) !== not && !(taken && taken(x));
  }
  private span(from: string): Matcher {
    this.at++;
    let to = this.chars[this.at++]!;
    if (to === "\\") to = this.chars[this.at++] ?? "";
    const [a, b] = [from.codePointAt(0)!, to.codePointAt(0) ?? -1];
    if (a > b) throw new BadPattern(`"${from}-${to}" runs backwards.`);
    const inside = (x: string) => {
      const p = x.codePointAt(0)!;
      return p >= a && p <= b;
    };
    return this.fold ? (x) => inside(x) || inside(x.toLowerCase()) || inside(x.toUpperCase()) : inside;
  }

  private emit(t: Tree, add: (s: Step) => number, steps: Step[]): void {
    switch (t.k) {
      case "char":
        add({ op: "char", is: t.is });
        return;
      case "start":
      case "end":
        add({ op: t.k });
        return;
      case "all":
        for (const p of t.parts) this.emit(p, add, steps);
        return;
      case "group":
        if (t.slot !== null) add({ op: "save", slot: t.slot * 2 });
        this.emit(t.of, add, steps);
        if (t.slot !== null) add({ op: "save", slot: t.slot * 2 + 1 });
        return;
      case "either": {
        const ends: number[] = [];
        t.parts.forEach((p, i) => {
          const last = i === t.parts.length - 1;
          const split = last ? -1 : add({ op: "split", first: steps.length + 1, second: 0 });
          this.emit(p, add, steps);
          if (!last) {
            ends.push(add({ op: "jump", to: 0 }));
            (steps[split] as { second: number }).second = steps.length;
          }
        });
        for (const e of ends) (steps[e] as { to: number }).to = steps.length;
        return;
      }
      case "repeat": {
        const fork = (into: number, past: number) =>
          t.lazy ? { first: past, second: into } : { first: into, second: past };
        for (let i = 0; i < t.least; i++) this.emit(t.of, add, steps);
        if (t.most === Infinity) {
          const split = add({ op: "split", first: 0, second: 0 });
          this.emit(t.of, add, steps);
          add({ op: "jump", to: split });
          Object.assign(steps[split]!, fork(split + 1, steps.length));
          return;
        }
        const splits: number[] = [];
        for (let i = t.least; i < t.most; i++) {
          splits.push(add({ op: "split", first: 0, second: 0 }));
          this.emit(t.of, add, steps);
        }
        for (const s of splits) Object.assign(steps[s]!, fork(s + 1, steps.length));
      }
    }
  }
}

function run(
  steps: readonly Step[],
  groups: number,
  lines: boolean,
  text: readonly string[],
  from: number,
  work: Work,
): number[] | null {
  let now: { pc: number; caps: number[] }[] = [];
  let best: number[] | null = null;
  const marked = new Int32Array(steps.length).fill(-1);
  // Threads in the order of preference; each place of the pattern at most once per character.
  const add = (list: typeof now, start: number, caps0: number[], pos: number) => {
    const stack: [number, number[]][] = [[start, caps0]];
    while (stack.length > 0) {
      const [pc, caps] = stack.pop()!;
      if (marked[pc] === pos) continue;
      marked[pc] = pos;
      const s = steps[pc]!;
      if (s.op === "jump") stack.push([s.to, caps]);
      else if (s.op === "split") stack.push([s.second, caps], [s.first, caps]);
      else if (s.op === "save") {
        const c = [...caps];
        c[s.slot] = pos;
        stack.push([pc + 1, c]);
      } else if (s.op === "start") {
        if (pos === 0 || (lines && text[pos - 1] === "\n")) stack.push([pc + 1, caps]);
      } else if (s.op === "end") {
        if (pos === text.length || (lines && text[pos] === "\n")) stack.push([pc + 1, caps]);
      } else list.push({ pc, caps });
    }
  };
  for (let pos = from; ; pos++) {
    if (best === null) add(now, 0, [pos, ...Array<number>(groups * 2 + 1).fill(-1)], pos);
    if (now.length === 0 && best !== null) break;
    work.spend(2 + 2 * now.length);
    const next: typeof now = [];
    for (const { pc, caps } of now) {
      const s = steps[pc]!;
      if (s.op === "match") {
        best = [...caps];
        best[1] = pos;
        break;
      }
      if (s.op === "char" && pos < text.length && s.is(text[pos]!)) add(next, pc + 1, caps, pos + 1);
    }
    if (pos >= text.length) break;
    now = next;
  }
  return best;
}
