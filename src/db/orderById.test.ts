import { readdirSync, readFileSync } from "node:fs";

/**
 * "order by id" goes by what is selected as id where something is: ids given as text would then stand 1, 10, 2, and
 * whoever goes on behind the last of a lot leaves records out.
 */
it("nothing is put in the order of ids that were made texts", () => {
  const files = readdirSync("src/db", { recursive: true, encoding: "utf8" }).filter((f) => f.endsWith(".ts"));
  const statements = files.flatMap((f) =>
    [...readFileSync(`src/db/${f}`, "utf8").matchAll(/`[^`]*`|"[^"\n]*"/g)].map((m) => ({ f, sql: m[0] })),
  );
  const asText = /\bid::text as id\b|\$\{SELECTED\}/;
  const wrong = statements.filter(({ sql }) => asText.test(sql) && /order by ([^`]*, )?id\b/.test(sql));
  expect(wrong).toEqual([]);
  expect(statements.filter(({ sql }) => asText.test(sql)).length).toBeGreaterThan(10);
});
