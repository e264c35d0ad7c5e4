import { z } from "zod";
import { emailKey } from "@/core/form";

export { emailKey };

/** An address as it is kept. */
export const emailAddress = z
  .string()
  .max(200)
  .transform(emailKey)
  .pipe(
    z
      .string()
      .regex(
        /^[^\s@<>(),;:"\\[\]]+@[^\s@<>(),;:"\\[\]]+\.[^\s@<>(),;:"\\[\]]+$/,
        "An e-mail address looks like una.quirke@quillhaven.example",
      ),
  );
