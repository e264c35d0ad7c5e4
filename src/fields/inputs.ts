import { view as choice } from "./choice/Input";
import { view as severalChoices } from "./several-choices/Input";
import { view as date } from "./date/Input";
import { view as file } from "./file/Input";
import { view as lines } from "./lines/Input";
import { view as longText } from "./long-text/Input";
import { view as lookUp } from "./look-up/Input";
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
  number,
  money,
  date,
  time,
  "date and time": dateAndTime,
  "yes or no": yesOrNo,
  choice,
  "several choices": severalChoices,
  person,
  "look-up": lookUp,
  "look-up in several": lookUpInSeveral,
  file,
  request,
  lines,
  section,
  page,
} satisfies { [K in FieldKind]: FieldView };
