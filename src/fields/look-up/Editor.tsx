export { RegisterDetail as Editor } from "@/workshop/parts";
