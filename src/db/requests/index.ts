export * from "./askedOfNobody";
export * from "./desk";
export * from "./findRequests";
export * from "./requestEvents";
export * from "./requestList";
export * from "./requestRow";
export * from "./saveRequest";
export * from "./tick";
