/** The lines by which the made-up kinds enter the lists: all there is to write outside their folders. */
export interface ListLine {
  part: string;
  list: string;
  /** Imported at the top of the list. */
  imports: string;
  /** What the line is put behind, and the line. */
  behind: string;
  line: string;
}
export const LISTS: readonly ListLine[] = [
  {
    part: "step: types",
    list: "src/steps/shapes.ts",
    imports: `import type { Ripen, RipenNews, RipenReason, RipenResult, RipenWork } from "./ripen/shape";`,
    behind: "export interface StepParts<List> {",
    line: "  ripen: { shape: Ripen; work: RipenWork; result: RipenResult; waits: true; news: RipenNews; reason: RipenReason };",
  },
  {
    part: "step: behaviour",
    list: "src/steps/kinds.ts",
    imports: `import { ripen } from "./ripen/kind";`,
    behind: "export const STEPS = {",
    line: "  ripen,",
  },
  {
    part: "step: schema",
    list: "src/steps/schemas.ts",
    imports: `import { schema as ripen } from "./ripen/schema";`,
    behind: "export const STEP_SCHEMAS = {",
    line: "  ripen,",
  },
  {
    part: "step: effect",
    list: "src/steps/effects.ts",
    imports: `import { effect as ripen } from "./ripen/effect";`,
    behind: "export const EFFECTS = {",
    line: " ripen,",
  },
  {
    part: "step: view",
    list: "src/steps/views.ts",
    imports: `import { view as ripen } from "./ripen/View";`,
    behind: "export const STEP_VIEWS = {",
    line: "  ripen,",
  },
  {
    part: "field: types",
    list: "src/fields/shapes.ts",
    imports: "",
    behind: "export interface FieldParts {",
    line: "  angle: { column: true };",
  },
  {
    part: "field: behaviour",
    list: "src/fields/kinds.ts",
    imports: `import { angle } from "./angle/kind";`,
    behind: "export const FIELDS = {",
    line: "  angle,",
  },
  {
    part: "field: schema",
    list: "src/fields/schemas.ts",
    imports: `import { schema as angle } from "./angle/schema";`,
    behind: "export const FIELD_SCHEMAS = {",
    line: "  angle,",
  },
  {
    part: "field: column",
    list: "src/fields/columns.ts",
    imports: `import { column as angle } from "./angle/column";`,
    behind: "export const COLUMNS = {",
    line: "  angle,",
  },
  {
    part: "field: input",
    list: "src/fields/inputs.ts",
    imports: `import { view as angle } from "./angle/Input";`,
    behind: "export const FIELD_INPUTS = {",
    line: "  angle,",
  },
  {
    part: "field: editor",
    list: "src/fields/editors.ts",
    imports: `import { Editor as angle } from "./angle/Editor";`,
    behind: "export const FIELD_EDITORS = {",
    line: "  angle,",
  },
  {
    part: "start: types",
    list: "src/starts/shapes.ts",
    imports: `import type { BellStart } from "./bell/shape";`,
    behind: "export interface StartParts {",
    line: "  bell: BellStart;",
  },
  {
    part: "start: behaviour",
    list: "src/starts/kinds.ts",
    imports: `import { bell } from "./bell/kind";`,
    behind: "export const STARTS = {",
    line: " bell,",
  },
  {
    part: "start: schema",
    list: "src/starts/schemas.ts",
    imports: `import { schema as bell } from "./bell/schema";`,
    behind: "export const START_SCHEMAS = {",
    line: " bell,",
  },
  {
    part: "start: editor",
    list: "src/starts/editors.ts",
    imports: `import { Editor as bell } from "./bell/Editor";`,
    behind: "export const START_EDITORS = {",
    line: " bell,",
  },
];
