export { columnsAsSql, type ColumnFound } from "./columnsAsSql";
export { createRegister } from "./createRegister";
export { countRecords, findRecords, type RecordSearch } from "./findRecords";
export * from "./history";
export { indexOldRegisters } from "./indexes";
export { quoted, selectRecord, tableOf, type RecordRow } from "./names";
export * from "./readRecords";
export * from "./shapes";
export * from "./writeRecords";
