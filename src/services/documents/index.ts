export { refused as docxWorkRefused } from "./docxWork";
export { makeDocument, type Made } from "./makeDocument";
export { signatureLines } from "./signatureLines";
export { previewDocument } from "./previewDocument";
export { keepTemplate, keptTemplateList, removeKeptTemplate, takeTemplate } from "./keptTemplates";
export {
  bringTemplate,
  DOCX,
  makeFirstTemplate,
  templateAsNow,
  templateVersions,
  type BroughtTemplate,
  type TemplateVersion,
} from "./templates";
