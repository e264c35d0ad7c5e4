export { notTooDeep } from "./nesting";
export { MOST_MAIL_TEXT, processDefinition, sentDefinition, start, step } from "./definition";
export { edit } from "./edit";
export { field, formData } from "./form";
export { formQuestion } from "./formQuestion";
export { registerRights, registerShape } from "./register";
export { workingCalendar } from "./calendar";
export { emailAddress, emailKey } from "./emailAddress";
export { personInput, type PersonInput } from "./person";
