import type { Registers } from "../form";
import type { RowMistake } from "../sheets";

/** Why a row of a sheet comes to no record, in words: what, where, and the way out. */
export function rowMistakeSentence(why: RowMistake, registers: Registers): string {
  switch (why.code) {
    case "unnamed": {
      const several = why.why === "several";
      if (why.registers.length === 0)
        return several
          ? `${why.column}: more than one person is called "${why.text}". Give the e-mail address.`
          : `${why.column}: "${why.text}" is nobody here. Give the name as it stands in Office, or the e-mail address.`;
      const of = why.registers.map((key) => registers[key]?.name ?? key).join(" or ");
      return several
        ? `${why.column}: more than one record of ${of} is called "${why.text}".${
            why.registers.length > 1
              ? ` Say of which register, for example: ${registers[why.registers[0]!]?.name ?? why.registers[0]}: ${why.text}.`
              : ""
          }`
        : `${why.column}: there is no "${why.text}" in ${of}. Add it there first, or mend the cell.`;
    }
    case "no-key":
      return `${why.column} is empty, and records are found again by it.`;
    case "key-twice":
      return `Line ${why.line} has the same ${why.column}, "${why.value}". The first one counts.`;
    case "key-several":
      return `${why.count} records have "${why.value}" as their ${why.column}; it cannot be told which is meant.`;
    case "empty-row":
      return "Nothing stands in the columns that are brought in.";
  }
}
