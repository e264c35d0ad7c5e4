export { edit, field, formData, processDefinition, registerShape, step } from "./definition";
export { workingCalendar } from "./calendar";
