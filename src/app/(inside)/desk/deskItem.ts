import type { AnsweredTogether } from "@/services";

/** One task of a desk, as its list shows it. */
export interface DeskItem {
  href: string;
  number: string;
  title: string;
  process: string;
  step: string;
  /** The round it is of, in words; empty for none. */
  about: string;
  requester: string;
  due: number | null;
  left: { text: string; tone: "calm" | "soon" | "late" } | null;
  shared: boolean;
  taken: boolean;
  coversFor: string | null;
  task: string;
  /** How it may be answered together with others; null for one by one. */
  withOthers: AnsweredTogether | null;
}
