import type { FieldBehaviour } from "@/core/kinds";
import { telephone } from "./telephone/kind";
import { wholeNumber } from "./whole-number/kind";
import { percentage } from "./percentage/kind";
import { lengthOfTime } from "./length-of-time/kind";
import { postalAddress } from "./postal-address/kind";
import { textBlock } from "./text-block/kind";
import { choice } from "./choice/kind";
import { severalChoices } from "./several-choices/kind";
import { date } from "./date/kind";
import { file } from "./file/kind";
import { files } from "./files/kind";
import { signature } from "./signature/kind";
import { lines } from "./lines/kind";
import { longText } from "./long-text/kind";
import { lookUp } from "./look-up/kind";
import { severalRecords } from "./several-records/kind";
import { lookUpInSeveral } from "./look-up-in-several/kind";
import { money } from "./money/kind";
import { number } from "./number/kind";
import { page } from "./page/kind";
import { person } from "./person/kind";
import { request } from "./request/kind";
import { section } from "./section/kind";
import { text } from "./text/kind";
import { dateAndTime } from "./date-and-time/kind";
import { email } from "./e-mail/kind";
import { time } from "./time/kind";
import { webAddress } from "./web-address/kind";
import { yesOrNo } from "./yes-or-no/kind";
import type { FieldKind } from "./shapes";

/** In the order in which the picker offers them. */
export const FIELDS = {
  text,
  "long text": longText,
  "e-mail": email,
  "web address": webAddress,
  telephone,
  "postal address": postalAddress,
  number,
  "whole number": wholeNumber,
  money,
  percentage,
  date,
  time,
  "date and time": dateAndTime,
  "length of time": lengthOfTime,
  "yes or no": yesOrNo,
  choice,
  "several choices": severalChoices,
  person,
  "look-up": lookUp,
  "several records": severalRecords,
  "look-up in several": lookUpInSeveral,
  file,
  files,
  signature,
  request,
  lines,
  section,
  page,
  "text block": textBlock,
} satisfies { [K in FieldKind]: FieldBehaviour };
