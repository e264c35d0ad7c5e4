import { fieldOf } from "@/contracts/fieldOf";

export const schema = fieldOf("several records", {});
