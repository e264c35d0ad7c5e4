import type { Voting } from "./vote";

/** Answers of tests of votes: who agrees, who does not, and who abstains. */
export const VOTES = [
  { id: "yes", tone: "agree" },
  { id: "partly", tone: "agree" },
  { id: "no", tone: "refuse" },
  { id: "never", tone: "refuse" },
  { id: "pass", tone: "plain", abstains: true },
] as const;
export const VOTE_IDS = VOTES.map((a) => a.id);
export type VoteId = (typeof VOTE_IDS)[number];

const AGREE: readonly VoteId[] = ["yes", "partly"];
export const agreesBy = (who: Voting): readonly VoteId[] => (who.wins ? [who.wins as VoteId] : AGREE);

/** Whether agreement counts once everybody has answered. */
function agreed(who: Voting, all: readonly VoteId[]): boolean {
  const yes = all.filter((a) => agreesBy(who).includes(a)).length;
  const votes = all.filter((a) => a !== "pass").length;
  switch (who.how) {
    case "all":
    case "order":
      return yes > 0 && yes === votes;
    case "share":
      return yes > 0 && yes * 100 >= who.share! * votes;
    case "number":
      return yes >= Math.min(who.number!, all.length);
    case "one":
    case "first":
      throw new Error("one answer decides there");
  }
}

function* completions(open: number): Generator<VoteId[]> {
  if (open === 0) return yield [];
  for (const rest of completions(open - 1)) for (const a of VOTE_IDS) yield [...rest, a];
}

/**
 * What people have answered comes to, by trying every way in which those who have not may: null while it hangs on that.
 * @param sheet the answers in the order of the sheet
 */
export function votedBy(
  who: Voting,
  sheet: readonly VoteId[],
  given: readonly VoteId[],
  open: number,
): { agree: boolean; answer: VoteId } | null {
  const ends = new Set([...completions(open)].map((rest) => agreed(who, [...given, ...rest])));
  if (ends.size > 1 || (who.waits && open > 0)) return null;
  const agree = ends.has(true);
  const side = given.filter((a) => agree === agreesBy(who).includes(a));
  const votes = side.filter((a) => a !== "pass");
  // Where nobody decided against it those who abstained have the last word; where none did, all who are there agree.
  const of = [votes, side, given].find((x) => x.length > 0)!;
  const count = (a: VoteId) => of.filter((x) => x === a).length;
  const alike = sheet.filter((a) => count(a) === Math.max(...of.map(count)));
  return { agree, answer: who.ties === "first" ? alike[0]! : alike.at(-1)! };
}
