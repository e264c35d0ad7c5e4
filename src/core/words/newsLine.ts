import type { NewsFacts, NewsKind } from "../engine";

/** What makes each kind of news, for whoever chooses which of them to have. */
export const NEWS_KINDS: Record<NewsKind, string> = {
  "task came": "A task comes to me",
  covering: "A task comes to me because I cover for somebody",
  "handed over": "A task of somebody else is handed to me",
  "came back": "A task I handed over for a while comes back",
  "handed away": "A task of mine is handed to somebody else",
  "sent back": "A request of mine is sent back for changes",
  "called off": "A task of mine is not needed any more",
  reminded: "I am reminded of a task",
  "asked something": "Somebody asks me something about a request",
  "answer came": "What I asked is answered",
  stuck: "A request of a process I own is stuck",
  "held up": "A request of mine is held up",
  "not delivered": "Mail of a process I own could not be delivered",
  ended: "A request of mine has ended",
  mentioned: "I am mentioned in a note",
};

/** How news reads. */
export type NewsLine = {
  [K in NewsKind]: (facts: NewsFacts[K], names: NewsNames) => string;
};
export interface NewsNames {
  person(id: string): string;
  time(ms: number): string;
}

const LINES: NewsLine = {
  "task came": ({ step, due }, n) =>
    `${step}: it waits for you${due === null ? "" : `, until ${n.time(due)}`}`,
  covering: (f, n) => `${f.step}: you answer for ${n.person(f.for)}, who is away`,
  "handed over": ({ step, by, why }, n) => {
    switch (why) {
      case "person":
        return `${step}: ${by ? n.person(by) : "somebody"} handed it over to you`;
      case "ladder":
        return `${step}: it has come to you, as its ladder says`;
      case "left":
        return `${step}: it has come to you, for whoever was asked has left`;
      case "away":
        return `${step}: it has come to you, for whoever was asked is away`;
      case "apart":
        return `${step}: it has come to you, for whoever was asked has answered another step and may not answer this one`;
    }
  },
  "came back": ({ step, by }, n) =>
    `${step}: it is with you again; ${n.person(by)} says what they would answer`,
  "handed away": ({ step, to }, n) =>
    `${step}: ${to.map(n.person).join(", ")} ${to.length > 1 ? "have" : "has"} it now; you need do nothing more`,
  "sent back": ({ step, by }, n) =>
    `${step}: ${by ? `${n.person(by)} sends` : "It was sent"} it back to you for changes`,
  "called off": ({ step, why }) => `${step}: your answer is not needed any more; ${CALLED_OFF[why]}`,
  reminded: ({ step, by }, n) =>
    `${step}: ${by ? n.person(by) : "somebody"} reminds you that it waits for you`,
  "asked something": ({ step, by }, n) => `${step}: ${n.person(by)} asks you something about it`,
  "answer came": ({ step, by }, n) =>
    by === null
      ? `${step}: nobody is there any more to answer what you asked`
      : `${step}: ${n.person(by)} answers what you asked`,
  stuck: ({ step }) => `It is stuck at “${step}” and waits for you, as an owner of its process`,
  "held up": ({ step }) =>
    `It is held up at “${step}”. The owners of the process have been told; you need do nothing`,
  "not delivered": ({ step, to }) => `${step ? `${step}: its mail` : "Mail"} could not be delivered to ${to}`,
  ended: ({ status, result }) => (status === "finished" ? `It has ended: ${result}` : "It was cancelled"),
  mentioned: ({ by, on }, n) => `${n.person(by)} mentions you on ${on}`,
};

const CALLED_OFF: Record<NewsFacts["called off"]["why"], string> = {
  decided: "it is decided",
  ended: "the request has ended",
  returned: "it went back for changes",
  enough: "enough is known without it",
  gone: "what it was about was taken away",
  merged: "you have another task at the same step, and one answer counts",
  ladder: "it was answered on your behalf, as its ladder says",
};

export const newsLine = <K extends NewsKind>(kind: K, facts: NewsFacts[K], names: NewsNames): string =>
  LINES[kind]("about" in facts ? { ...facts, step: `${facts.step} (${facts.about})` } : facts, names);
