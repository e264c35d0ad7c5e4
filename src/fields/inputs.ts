import { view as telephone } from "./telephone/Input";
import { view as wholeNumber } from "./whole-number/Input";
import { view as percentage } from "./percentage/Input";
import { view as lengthOfTime } from "./length-of-time/Input";
import { view as postalAddress } from "./postal-address/Input";
import { view as textBlock } from "./text-block/Input";
import { view as choice } from "./choice/Input";
import { view as severalChoices } from "./several-choices/Input";
import { view as date } from "./date/Input";
import { view as file } from "./file/Input";
import { view as files } from "./files/Input";
import { view as signature } from "./signature/Input";
import { view as lines } from "./lines/Input";
import { view as longText } from "./long-text/Input";
import { view as lookUp } from "./look-up/Input";
import { view as severalRecords } from "./several-records/Input";
import { view as lookUpInSeveral } from "./look-up-in-several/Input";
import { view as money } from "./money/Input";
import { view as number } from "./number/Input";
import { view as page } from "./page/Input";
import { view as person } from "./person/Input";
import { view as request } from "./request/Input";
import { view as section } from "./section/Input";
import { view as text } from "./text/Input";
import { view as dateAndTime } from "./date-and-time/Input";
import { view as email } from "./e-mail/Input";
import { view as time } from "./time/Input";
import { view as webAddress } from "./web-address/Input";
import { view as yesOrNo } from "./yes-or-no/Input";
import type { FieldView } from "./input";
import type { FieldKind } from "./shapes";

/** How each kind of field is filled in and read. */
export const FIELD_INPUTS = {
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
} satisfies { [K in FieldKind]: FieldView };
