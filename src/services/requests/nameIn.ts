import { outsiderName, outsiderOf, type RequestState } from "@/core/engine";
import { followerOf } from "@/core/form";
import { personName, type Directory } from "../kernel/directory";

/** How people are called in a request: those outside as it knows them, who have no name anywhere else. */
export const nameIn =
  (d: Directory, { outsiders, requester }: Pick<RequestState, "outsiders" | "requester">) =>
  (id: string): string => {
    const outside = outsiderOf({ outsiders: outsiders ?? {} }, id);
    if (outside) return outsiderName(outside);
    return followerOf(requester) === id && requester.kind === "outside" ? requester.name : personName(d, id);
  };
