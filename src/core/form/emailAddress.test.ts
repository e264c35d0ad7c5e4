import { isEmailAddress } from "./emailAddress";

it("one address and nothing else", () => {
  for (const good of ["ada@x.example", "o'neill+walls@a-b.x.example", "ádá@x.example"])
    expect([good, isEmailAddress(good)]).toEqual([good, true]);
  for (const bad of [
    "",
    "ada",
    "ada@x",
    "ada@x.example, bo@x.example",
    "Ada <ada@x.example>",
    "ada@x.example\r\nBcc: bo@x.example",
    "ada@x.example\u0000",
    "ada@@x.example",
    "ada @x.example",
    `${"a".repeat(65)}@x.example`,
    `a@${"x".repeat(250)}.example`,
  ])
    expect([bad, isEmailAddress(bad)]).toEqual([bad, false]);
});
