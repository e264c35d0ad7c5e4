import type { FileFacts } from "./facts";
import type { MailFacts } from "./mailNames";

/** A mail that a sample is of: what formulas of a start read of it; of files what they are, and not what stands in them. */
export interface SampleMail {
  sender: string;
  senderName: string;
  to: string[];
  subject: string;
  text: string;
  files: { name: string; size: number; type: string }[];
}
interface OfMail {
  id: string;
  mail?: SampleMail;
}

const fileId = (sample: string, index: number): string => `sample mail ${sample} ${index}`;

/** The mail of a sample as a start would read it; null where the sample is of none. */
export const sampleMailFacts = ({ id, mail }: OfMail): MailFacts | null =>
  mail ? { ...mail, files: mail.files.map((_, i) => fileId(id, i)) } : null;

/** The files of samples that are mails, by the ids by which their values name them. */
export const sampleMailFiles = (samples: readonly OfMail[]): Record<string, FileFacts> =>
  Object.fromEntries(
    samples.flatMap(({ id, mail }) =>
      (mail?.files ?? []).map((f, i) => [fileId(id, i), { ...f, id: fileId(id, i), at: 0 }] as const),
    ),
  );
