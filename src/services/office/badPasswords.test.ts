import { passwordMistake } from "./badPasswords";

const ABOUT = ["Una Quirke", "una.quirke@quillhaven.example"];
it.each([
  "lantern orchard ferry nine",
  "Kettle-moor-hat-72-lace",
  "纸船灯塔苹果石头雨伞月亮风车",
  "x7$kPq!v2LmZ",
])("%s is good", (p) => expect(passwordMistake(p, ABOUT)).toBeNull());

it.each([
  ["short", "at least 12"],
  ["x".repeat(201), "at most 200"],
  // Known ones, however they are dressed up.
  ["password2026!", "first that are tried"],
  ["Pass.word-1234567", "first that are tried"],
  ["1q2w3e4r5t6y", "first that are tried"],
  ["summersummersummer", "first that are tried"],
  ["aaaaaaaaaaaaaaa", "first that are tried"],
  ["123412341234", "first that are tried"],
  ["abcdefghijkl", "first that are tried"],
  ["zyxwvutsrqpo", "first that are tried"],
  ["QuillhavenUna2026", "names and addresses"],
  ["una.quirke@quillhaven", "names and addresses"],
])("%s is refused", (p, why) => expect(passwordMistake(p, ABOUT)).toContain(why));

it("characters are counted as people see them", () => {
  expect(passwordMistake("👍".repeat(11), ABOUT)).toContain("this one has 11");
});
