export { proveTable, type Example, type ProvenInput, type TableProof } from "./proveTable";
export {
  givesList,
  MOST_INPUTS,
  MOST_OUTPUTS,
  MOST_RULES,
  ranks,
  type CellTest,
  type CellValue,
  type DecisionTable,
  type Gathered,
  type HitPolicy,
  type OutputKind,
  type TableInput,
  type TableOutput,
  type TableRule,
} from "./table";
export { tableResult, type TableFace, type TableFailure, type TableResult } from "./tableResult";
