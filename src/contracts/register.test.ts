import { registerShape } from ".";

const shape = (key: string, column: string) => ({
  format: "cobble-step/register@1",
  key,
  name: "Things",
  one: "thing",
  purpose: "",
  title: [column],
  columns: [{ id: column, name: "Title", kind: "text" }],
});

it("a register and its columns have no name that every object has", () => {
  expect(registerShape.safeParse(shape("things", "title")).success).toBe(true);
  for (const odd of ["constructor", "valueOf", "1st", "Things", ""]) {
    expect(registerShape.safeParse(shape(odd, "title")).success).toBe(false);
    expect(registerShape.safeParse(shape("things", odd)).success).toBe(false);
  }
  const link = {
    ...shape("things", "title"),
    columns: [{ id: "title", name: "T", kind: "look-up", register: "constructor" }],
  };
  expect(registerShape.safeParse(link).success).toBe(false);
});
