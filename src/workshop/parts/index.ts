export { AnewChip, AnewChoice } from "./AnewChip";
export { AskMailChip } from "./AskMailChip";
export { AudienceChoice } from "./AudienceChoice";
export { FillsChip } from "./FillsChip";
export { useDraft } from "../draft/DraftProvider";
export { Chip } from "./Chip";
export { ConditionHead } from "./ConditionHead";
export { Detail } from "./Detail";
export { distinct } from "./distinct";
export { EndingsDetail } from "./EndingsDetail";
export { FormulaCell } from "./FormulaCell";
export {
  KindViewsProvider,
  useKindViews,
  type AnyStepView,
  type FieldEditorProps,
  type KindViews,
} from "./kindViews";
export { LadderEditor } from "./LadderEditor";
export { ladderUsers } from "./ladderUsers";
export { LengthInput } from "./LengthInput";
export { LetterChoice } from "./LetterChoice";
export { LimitChip } from "./LimitChip";
export { newId } from "./newId";
export { OptionsDetail } from "./OptionsDetail";
export { PictureDetail } from "./PictureDetail";
export { OffersChip } from "./OffersChip";
export { PortsChip } from "./PortsChip";
export { RangeDetail } from "./RangeDetail";
export { RegisterDetail } from "./RegisterDetail";
export { HoldsRow, RegisterRow, startRow } from "./RecordRows";
export { RuleEditor } from "./RuleEditor";
export { isEmptyRule, useRuleText } from "./ruleText";
export { SheetDrag, useDragRow } from "./SheetDrag";
export { SampleFinds } from "./SampleFinds";
export { SamplePreview } from "./SamplePreview";
export { SentChip } from "./SentChip";
export { useSettled } from "./settled";
export { StepHere, useNamesHere, useSampleAt } from "./StepHere";
export { SpanLimit } from "./SpanLimit";
export { StepName } from "./StepName";
export { TemplateCell } from "./TemplateCell";
export { TextCell } from "./TextCell";
export { ToneSelect } from "./ToneSelect";
export { wayOn } from "./wayOn";
export { WayOnChip } from "./WayOnChip";
export { WhoChip } from "./WhoChip";
export { without } from "./without";
