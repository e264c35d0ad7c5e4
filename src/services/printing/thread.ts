import type { Paper } from "@/core/paper";
import { paperPdf } from "@/outside/pdf";

/** The work of a thread beside the one that answers pages: laying a paper out takes seconds where it is long. */
const thread = (paper: Paper): Promise<Uint8Array> => paperPdf(paper);
export default thread;
