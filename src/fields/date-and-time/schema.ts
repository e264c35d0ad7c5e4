import { fieldOf } from "@/contracts/fieldOf";

export const schema = fieldOf("date and time", {});
