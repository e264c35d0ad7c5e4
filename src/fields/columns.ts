import { column as telephone } from "./telephone/column";
import { column as wholeNumber } from "./whole-number/column";
import { column as percentage } from "./percentage/column";
import { column as choice } from "./choice/column";
import { column as request } from "./request/column";
import { column as severalChoices } from "./several-choices/column";
import { column as date } from "./date/column";
import { column as file } from "./file/column";
import { column as files } from "./files/column";
import { column as longText } from "./long-text/column";
import { column as lookUp } from "./look-up/column";
import { column as lookUpInSeveral } from "./look-up-in-several/column";
import { column as money } from "./money/column";
import { column as number } from "./number/column";
import { column as person } from "./person/column";
import { column as text } from "./text/column";
import { column as dateAndTime } from "./date-and-time/column";
import { column as email } from "./e-mail/column";
import { column as time } from "./time/column";
import { column as webAddress } from "./web-address/column";
import { column as yesOrNo } from "./yes-or-no/column";
import type { ColumnSql } from "./column";
import type { ColumnKind } from "./shapes";

export const COLUMNS = {
  text,
  "long text": longText,
  "e-mail": email,
  "web address": webAddress,
  telephone,
  number,
  "whole number": wholeNumber,
  money,
  percentage,
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
  files,
  request,
} satisfies { [K in ColumnKind]: ColumnSql };
