/** What a picker says where its step found nothing to offer. */
export const NOTHING_OFFERED = "There is nothing to choose from here.";

/** Of what is offered so many are listed at a time; typing finds the others. */
export const MOST_SHOWN = 50;

/** Whether something that is offered is meant by what was typed. */
export const matches = (search: string, title: string): boolean =>
  title.toLowerCase().includes(search.trim().toLowerCase());
