import { fieldOf } from "@/contracts/fieldOf";

export const schema = fieldOf("text block", {});
