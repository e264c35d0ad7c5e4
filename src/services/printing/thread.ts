import type { LabelSheet, Paper } from "@/core/paper";
import { labelsPdf, paperPdf } from "@/outside/pdf";

/** What is to be printed. */
export type Printed = { paper: Paper } | { labels: LabelSheet };

/** The work of a thread beside the one that answers pages: laying out takes seconds where it is long. */
const thread = (p: Printed): Promise<Uint8Array> => ("paper" in p ? paperPdf(p.paper) : labelsPdf(p.labels));
export default thread;
