import { fieldOf } from "@/contracts/fieldOf";

export const schema = fieldOf("look-up in several", {});
