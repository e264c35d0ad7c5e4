import { settingsNow } from "../kernel/settings";

/** The address people know this installation by; in the demo the one it runs at. */
export const ownAddress = (): string => {
  const { publicUrl, port } = settingsNow();
  return publicUrl || `http://localhost:${port}`;
};

/** Where a task stands for whoever signs in. */
export const deskAddress = (number: string, task: string): string =>
  `${ownAddress()}/desk/${encodeURIComponent(number)}/${encodeURIComponent(task)}`;

/** Where somebody outside follows their request. */
export const followAddress = (token: string): string => `${ownAddress()}/follow/${token}`;

/** Where a task is answered by a link. */
export const answerAddress = (token: string): string => `${ownAddress()}/answer/${token}`;
