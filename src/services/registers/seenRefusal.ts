import type { FormProblem, RegisterShape } from "@/core/form";
import type { WriteRefusal } from "@/core/records";
import type { Actor } from "../kernel/actor";
import type { Directory } from "../kernel/directory";
import { registersSeen } from "../kernel/registersSeen";

/** A register somebody writes to: with all its columns, and as they see it. */
interface Written {
  d: Directory;
  whole: RegisterShape;
  shape: RegisterShape;
}

/** Why a record is not written, as far as whoever writes may know: of what they do not see nothing is told. */
export function seenRefusal(actor: Actor, { d, whole, shape }: Written, why: WriteRefusal): WriteRefusal {
  if (why.code === "pointed-at") {
    const seen = registersSeen(d, actor);
    return { ...why, by: why.by.map((p) => (seen[p.register] ? p : { ...p, register: "", column: "" })) };
  }
  if (shape === whole) return why;
  if (why.code === "taken") return { ...why, by: null, value: "" };
  if (why.code !== "form") return why;
  const sees = (path: string) => path === "" || shape.columns.some((x) => x.id === path);
  const hidden: FormProblem = {
    code: "check",
    path: "",
    data: { field: shape.name, say: "Something you do not see keeps this from being written." },
  };
  return { ...why, problems: why.problems.map((p) => (sees(p.path) ? p : hidden)) };
}
