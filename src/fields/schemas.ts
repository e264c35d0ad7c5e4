import type { z } from "zod";
import type { Field } from "@/core/form";
import { schema as telephone } from "./telephone/schema";
import { schema as wholeNumber } from "./whole-number/schema";
import { schema as percentage } from "./percentage/schema";
import { schema as lengthOfTime } from "./length-of-time/schema";
import { schema as postalAddress } from "./postal-address/schema";
import { schema as textBlock } from "./text-block/schema";
import { schema as choice } from "./choice/schema";
import { schema as severalChoices } from "./several-choices/schema";
import { schema as date } from "./date/schema";
import { schema as file } from "./file/schema";
import { schema as files } from "./files/schema";
import { schema as signature } from "./signature/schema";
import { schema as lines } from "./lines/schema";
import { schema as longText } from "./long-text/schema";
import { schema as lookUp } from "./look-up/schema";
import { schema as severalRecords } from "./several-records/schema";
import { schema as lookUpInSeveral } from "./look-up-in-several/schema";
import { schema as money } from "./money/schema";
import { schema as number } from "./number/schema";
import { schema as page } from "./page/schema";
import { schema as person } from "./person/schema";
import { schema as section } from "./section/schema";
import { schema as request } from "./request/schema";
import { schema as text } from "./text/schema";
import { schema as dateAndTime } from "./date-and-time/schema";
import { schema as email } from "./e-mail/schema";
import { schema as time } from "./time/schema";
import { schema as webAddress } from "./web-address/schema";
import { schema as yesOrNo } from "./yes-or-no/schema";
import type { FieldKind } from "./shapes";

/** By kind: the schema of a field, given that of a list of fields. */
export const FIELD_SCHEMAS = {
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
} satisfies { [K in FieldKind]: (list: z.ZodType<Field[]>) => z.ZodType<Field & { kind: K }> };
