/* Generated from the OpenAPI document: npm run formats. */
export interface paths {
  "/processes": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    /** Processes open to the caller */
    get: operations["listProcesses"];
    put?: never;
    post?: never;
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/processes/{process}/requests": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    get?: never;
    put?: never;
    /** Makes a request */
    post: operations["startRequest"];
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/requests": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    /** The caller's own requests, newest first */
    get: operations["listMyRequests"];
    put?: never;
    post?: never;
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/requests/{number}": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    /** One request: its data as far as the caller may see them, who has it, what happened */
    get: operations["readRequest"];
    put?: never;
    post?: never;
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/requests/{number}/withdraw": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    get?: never;
    put?: never;
    /** Withdraws the caller's own request */
    post: operations["withdrawRequest"];
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/tasks": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    /** What waits for the caller, soonest limit first */
    get: operations["listTasks"];
    put?: never;
    post?: never;
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/requests/{number}/tasks/{task}": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    /** One task of the caller's: the data as the step shows them, and the answers */
    get: operations["readTask"];
    put?: never;
    post?: never;
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/requests/{number}/tasks/{task}/answer": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    get?: never;
    put?: never;
    /** Answers a task */
    post: operations["answerTask"];
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/requests/{number}/tasks/{task}/take": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    get?: never;
    put?: never;
    /** Takes a task that several people could answer */
    post: operations["takeTask"];
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/requests/{number}/tasks/{task}/put-back": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    get?: never;
    put?: never;
    /** Puts a taken task back */
    post: operations["putBackTask"];
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/requests/{number}/tasks/{task}/hand-over": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    get?: never;
    put?: never;
    /** Hands a task over to a colleague */
    post: operations["handOverTask"];
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/requests/{number}/tasks/{task}/ask": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    get?: never;
    put?: never;
    /** Asks whoever made the request, or a colleague, something beside a task, which stays where it is */
    post: operations["askAtTask"];
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/requests/{number}/tasks/{task}/reassign": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    get?: never;
    put?: never;
    /** Gives anybody's open task to somebody else, for owners of the process */
    post: operations["reassignTask"];
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/files": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    get?: never;
    put?: never;
    /** Adds a file; its id is then the value of a file field in a form the caller sends */
    post: operations["addFile"];
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/files/{file}": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    /** A file, for whoever may see the field it stands in */
    get: operations["readFile"];
    put?: never;
    post?: never;
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/processes/{process}/draft": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    /** The draft of a process the caller may design */
    get: operations["readDraft"];
    /** Replaces the draft, if nobody changed it since that version; older formats are brought up to date */
    put: operations["putDraft"];
    post?: never;
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/processes/{process}/draft/edits": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    get?: never;
    put?: never;
    /** Applies edits to the draft, all or none */
    post: operations["editDraft"];
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/processes/{process}/problems": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    /** What is wrong with the draft; errors keep it from being released */
    get: operations["listProblems"];
    put?: never;
    post?: never;
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/processes/{process}/releases": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    get?: never;
    put?: never;
    /** Releases the draft under a version and puts it live */
    post: operations["release"];
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/registers": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    /** Registers with their columns */
    get: operations["listRegisters"];
    put?: never;
    post?: never;
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/registers/{register}/records": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    /** Records of a register */
    get: operations["listRecords"];
    put?: never;
    /** Adds a record */
    post: operations["addRecord"];
    delete?: never;
    options?: never;
    head?: never;
    patch?: never;
    trace?: never;
  };
  "/registers/{register}/records/{record}": {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    /** One record with the history of its changes */
    get: operations["readRecord"];
    put?: never;
    post?: never;
    /** Removes a record */
    delete: operations["removeRecord"];
    options?: never;
    head?: never;
    /** Changes columns of a record; those that are left out stay */
    patch: operations["changeRecord"];
    trace?: never;
  };
}
export type webhooks = Record<string, never>;
export interface components {
  schemas: {
    Problem: {
      type: string;
      title: string;
      status: number;
      /** @description A sentence for a person */
      detail: string;
      code?: string;
      problems?: {
        path?: string;
        code?: string;
        message?: string;
        /** @description Of a check that may be passed: what a reason under passed is given by */
        pass?: string;
      }[];
      /** @description With read-anew: values the answer reads anew, as texts and, under value, as data */
      changes?: {
        path?: string;
        name?: string;
        from?: string;
        to?: string;
        value?: string | boolean | null;
      }[];
    };
    FormData: {
      [key: string]:
        | (string | boolean | null)
        | ({
            "#": string;
          } & {
            [key: string]: string | boolean | null;
          })[];
    };
    RequestSummary: {
      /** @description Request number, for example LOAN-0042 */
      number: string;
      title: string;
      process: string;
      status: string;
      result: string | null;
      /**
       * Format: date-time
       * @description UTC, RFC 3339
       */
      started: string;
      ended: string | null;
      /** @description Person ids */
      waitingFor: string[];
    };
    Asker: {
      /** @enum {string} */
      kind: "person" | "service" | "outside" | "process";
      name: string;
      email: string | null;
    };
    Done: {
      /** @description Request number, for example LOAN-0042 */
      number: string;
    };
    TaskSummary: {
      /** @description Request number, for example LOAN-0042 */
      request: string;
      task: string;
      step: string;
      /** @description The round it is of, where it is one of several */
      about?: string;
      title: string;
      process: string;
      /** @description Whose own it is: an account's id */
      requester: string | null;
      requesterName: string;
      /** @enum {string} */
      purpose: "decide" | "complete" | "changes" | "question" | "advice";
      status: string;
      /**
       * Format: date-time
       * @description UTC, RFC 3339
       */
      opened: string;
      due: string | null;
    };
    ProcessDefinition: {
      /** @constant */
      format: "cobble-step/process@2";
      key: string;
      name: string;
      purpose: string;
      owners: string[];
      numbering: {
        prefix: string;
        digits: number;
      };
      title: string;
      calendar?: string;
      mailbox?: string;
      listed?: {
        under: string;
        place?: number;
      };
      keepPersonalDays?: number;
      keepFilesDays?: number;
      /** @constant */
      mentions?: true;
      limit?: components["schemas"]["Limit"];
      starts: components["schemas"]["Start"][];
      fields: components["schemas"]["Field"][];
      access: {
        [key: string]: {
          [key: string]: "edit" | "see" | "hide";
        };
      };
      route: components["schemas"]["__schema0"];
      forms?: {
        [key: string]: {
          /** @enum {string} */
          shows?: "together" | "pages" | "guided";
          heading?: string;
          help?: string;
          /** @enum {string} */
          answers?: "top" | "end";
          parts?: string[];
          columns?: string[];
        };
      };
      letters?: components["schemas"]["Letter"][];
      ladders?: {
        id: string;
        name: string;
        rungs: {
          id: string;
          /** @enum {string} */
          when: "before" | "at" | "after";
          length?: components["schemas"]["Length"];
          if?: string;
          every?: components["schemas"]["Length"];
          times?: number;
          action:
            | {
                /** @constant */
                do: "remind";
              }
            | {
                /** @constant */
                do: "tell";
                who: components["schemas"]["Rule"];
                subject?: string;
                text: string;
                letter?: string;
              }
            | {
                /** @constant */
                do: "add";
                who: components["schemas"]["Rule"];
              }
            | {
                /** @constant */
                do: "hand over";
                to: components["schemas"]["Rule"];
              }
            | {
                /** @constant */
                do: "answer";
                answer: string;
                note: string;
              };
        }[];
        from?: {
          ladder: string;
          version: number;
        };
      }[];
      documents?: components["schemas"]["DocumentTemplate"][];
      samples: {
        id: string;
        name: string;
        requester: string;
        data: components["schemas"]["FormData"];
        mail?: {
          sender: string;
          senderName: string;
          to: string[];
          subject: string;
          text: string;
          files: {
            name: string;
            size: number;
            type: string;
          }[];
        };
      }[];
      /** @constant */
      procedure?: true;
    };
    Limit: {
      from?:
        | {
            /** @constant */
            by: "start";
          }
        | {
            /** @enum {string} */
            by: "day" | "moment";
            formula: string;
          };
      rules?: {
        when: string;
        length:
          | components["schemas"]["Length"]
          | {
              /** @constant */
              by: "count";
              formula: string;
              most?: components["schemas"]["Length"];
              /** @enum {string} */
              unit: "working days" | "working hours" | "days" | "hours" | "minutes";
            }
          | {
              /** @constant */
              by: "lasting";
              formula: string;
              most?: components["schemas"]["Length"];
            }
          | {
              /** @constant */
              by: "day";
              formula: string;
              most?: components["schemas"]["Length"];
            }
          | {
              /** @constant */
              by: "moment";
              formula: string;
              most?: components["schemas"]["Length"];
            };
      }[];
      otherwise: components["schemas"]["Length"];
      rungs: {
        id: string;
        /** @enum {string} */
        when: "before" | "at" | "after";
        length?: components["schemas"]["Length"];
        if?: string;
        every?: components["schemas"]["Length"];
        times?: number;
        action:
          | {
              /** @constant */
              do: "remind";
            }
          | {
              /** @constant */
              do: "tell";
              who: components["schemas"]["Rule"];
              subject?: string;
              text: string;
              letter?: string;
            }
          | {
              /** @constant */
              do: "add";
              who: components["schemas"]["Rule"];
            }
          | {
              /** @constant */
              do: "hand over";
              to: components["schemas"]["Rule"];
            }
          | {
              /** @constant */
              do: "answer";
              answer: string;
              note: string;
            };
      }[];
      ladder?: string;
      /** @enum {string} */
      still?: "asker" | "anybody";
    };
    Length: {
      amount: number;
      /** @enum {string} */
      unit: "working days" | "working hours" | "days" | "hours" | "minutes";
    };
    Rule:
      | {
          /** @constant */
          by: "requester";
        }
      | {
          /** @constant */
          by: "person";
          person: string;
          others?: string[];
        }
      | {
          /** @constant */
          by: "group";
          group: string;
        }
      | {
          /** @constant */
          by: "duty";
          duty: string;
          place?: string;
        }
      | {
          /** @constant */
          by: "manager";
          of?: string;
          levels?: number;
          until?:
            | {
                title: string;
              }
            | {
                level: number;
              };
          /** @constant */
          line?: true;
        }
      | {
          /** @constant */
          by: "head";
          of?: string;
        }
      | {
          /** @constant */
          by: "people";
          where: string;
        }
      | {
          /** @constant */
          by: "answered";
          step: string;
          others?: string[];
        }
      | {
          /** @constant */
          by: "formula";
          formula: string;
        }
      | {
          /** @constant */
          by: "outside";
          to: string;
          name?: string;
        }
      | {
          /** @constant */
          by: "several";
          /** @enum {string} */
          take: "first" | "all";
          of: components["schemas"]["PlainRule"][];
        };
    PlainRule:
      | {
          /** @constant */
          by: "requester";
        }
      | {
          /** @constant */
          by: "person";
          person: string;
          others?: string[];
        }
      | {
          /** @constant */
          by: "group";
          group: string;
        }
      | {
          /** @constant */
          by: "duty";
          duty: string;
          place?: string;
        }
      | {
          /** @constant */
          by: "manager";
          of?: string;
          levels?: number;
          until?:
            | {
                title: string;
              }
            | {
                level: number;
              };
          /** @constant */
          line?: true;
        }
      | {
          /** @constant */
          by: "head";
          of?: string;
        }
      | {
          /** @constant */
          by: "people";
          where: string;
        }
      | {
          /** @constant */
          by: "answered";
          step: string;
          others?: string[];
        }
      | {
          /** @constant */
          by: "formula";
          formula: string;
        }
      | {
          /** @constant */
          by: "outside";
          to: string;
          name?: string;
        };
    Start:
      | {
          id: string;
          /** @constant */
          kind: "form";
          who:
            | {
                /** @constant */
                by: "everybody";
              }
            | {
                /** @constant */
                by: "group";
                group: string;
              }
            | {
                /** @constant */
                by: "department";
                department: string;
              };
          sent?: {
            says?: string;
            leads?:
              | {
                  /** @constant */
                  to: "form";
                  process: string;
                  values: {
                    name: string;
                    value: string;
                  }[];
                }
              | {
                  /** @constant */
                  to: "address";
                  address: string;
                };
          };
        }
      | {
          id: string;
          /** @constant */
          kind: "public";
          letterhead: string;
          greeting?: string;
          /** @enum {string} */
          asks: "nothing" | "address" | "confirmed";
          /** @constant */
          files?: true;
          /** @constant */
          staff?: true;
          /** @constant */
          values?: true;
          sent?: {
            says?: string;
            leads?:
              | {
                  /** @constant */
                  to: "form";
                  process: string;
                  values: {
                    name: string;
                    value: string;
                  }[];
                }
              | {
                  /** @constant */
                  to: "address";
                  address: string;
                };
          };
        }
      | {
          id: string;
          /** @constant */
          kind: "press";
          who:
            | {
                /** @constant */
                by: "everybody";
              }
            | {
                /** @constant */
                by: "group";
                group: string;
              }
            | {
                /** @constant */
                by: "department";
                department: string;
              };
          register: string;
          says: string;
          when?: string;
          /** @constant */
          atOnce?: true;
          into?: string;
          values: {
            field: string;
            value: string;
          }[];
        }
      | {
          id: string;
          /** @constant */
          kind: "handed";
          from:
            | {
                /** @constant */
                by: "any";
              }
            | {
                /** @constant */
                by: "these";
                processes: string[];
              };
        }
      | {
          id: string;
          /** @constant */
          kind: "record";
          register: string;
          /** @enum {string} */
          on: "added" | "changed" | "added or changed" | "removed";
          when?: string;
          /** @constant */
          each?: true;
          columns?: string[];
          into?: string;
          values: {
            field: string;
            value: string;
          }[];
        }
      | {
          id: string;
          /** @constant */
          kind: "date";
          register: string;
          column: string;
          days: number;
          /** @constant */
          working?: true;
          /** @enum {string} */
          clock?: "hours" | "minutes";
          /** @example 08:00 */
          at: string;
          when?: string;
          /** @constant */
          again?: true;
          /** @constant */
          late?: "never";
          into?: string;
          values: {
            field: string;
            value: string;
          }[];
        }
      | {
          id: string;
          /** @constant */
          kind: "timetable";
          days:
            | {
                /** @constant */
                every: "working day";
              }
            | {
                /** @constant */
                every: "week";
                days: number[];
              }
            | {
                /** @constant */
                every: "month";
                nth: number;
                of: ("day" | "working day") | number;
              }
            | {
                /** @constant */
                every: "rule";
                rule: string;
                /**
                 * Format: date
                 * @example 2026-01-05
                 */
                from: string;
              };
          /** @enum {string} */
          closed: "as it is" | "skip" | "before" | "after";
          /** @example 08:00 */
          at: string;
          each?: {
            register: string;
            when?: string;
            into?: string;
            values: {
              field: string;
              value: string;
            }[];
          };
        }
      | {
          id: string;
          /** @constant */
          kind: "mail";
          when?: string;
          /** @enum {string} */
          strangers: "take" | "hold" | "refuse";
          refusal?: string;
          values: {
            field: string;
            value: string;
          }[];
        };
    Field:
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "text";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "long text";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "e-mail";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "web address";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "telephone";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "postal address";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "number";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "whole number";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "money";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "percentage";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "date";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "time";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "date and time";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "length of time";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "yes or no";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "choice";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "several choices";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "person";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "look-up";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "several records";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "look-up in several";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "file";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "files";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "signature";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "request";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "lines";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "section";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "page";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        }
      | {
          id: string;
          name: string;
          /** @constant */
          kind: "text block";
          label?: string;
          help?: string;
          text?: string;
          picture?: {
            /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
            hash: string;
            says: string;
            width: number;
            height: number;
          };
          needed?: string;
          shown?: string;
          worked?: string;
          /** @constant */
          copied?: true;
          /** @constant */
          fixed?: true;
          /** @enum {string} */
          hand?: "in" | "out" | "in and out";
          starting?: string;
          offered?: string;
          /** @constant */
          personal?: true;
          checks?: {
            must: string;
            records?: {
              register: string;
              /** @enum {string} */
              there: "none" | "some";
            };
            say: string;
            /** @constant */
            passable?: true;
            about?: string[];
          }[];
          /** @constant */
          unique?: true;
          /** @constant */
          total?: true;
          min?: string;
          max?: string;
          options?: string[];
          among?: {
            register: string;
            column: string;
          };
          optionLabels?: {
            [key: string]: string;
          };
          register?: string;
          registers?: string[];
          fields?: components["schemas"]["Field"][];
        };
    __schema0: components["schemas"]["StepSent"][];
    Step:
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "decide";
          who: {
            rule: components["schemas"]["Rule"];
            /** @enum {string} */
            how: "one" | "first" | "all" | "share" | "number" | "order";
            share?: number;
            number?: number;
            wins?: string;
            /** @constant */
            waits?: true;
            /** @constant */
            ties?: "first";
            fallback?: components["schemas"]["Rule"];
            requesterToo?: boolean;
            never?: components["schemas"]["Rule"][];
            /** @constant */
            instead?: "manager";
            /** @enum {string} */
            turns?: "in turn" | "fewest open";
            /** @constant */
            atOnce?: true;
          };
          limit?: components["schemas"]["Limit"];
          offers?: {
            field: string;
            of: string;
          }[];
          byMail?: components["schemas"]["AskMail"];
          answers: {
            id: string;
            label: string;
            /** @enum {string} */
            tone: "agree" | "refuse" | "plain";
            /** @constant */
            note?: "must";
            words?: string;
            /** @constant */
            abstains?: true;
            /** @constant */
            returns?: true;
            /** @constant */
            byLadder?: true;
            anew?: string[];
            steps: components["schemas"]["__schema0"];
          }[];
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "complete";
          who: {
            rule: components["schemas"]["Rule"];
            /** @enum {string} */
            how: "one" | "first" | "all" | "share" | "number" | "order";
            share?: number;
            number?: number;
            wins?: string;
            /** @constant */
            waits?: true;
            /** @constant */
            ties?: "first";
            fallback?: components["schemas"]["Rule"];
            requesterToo?: boolean;
            never?: components["schemas"]["Rule"][];
            /** @constant */
            instead?: "manager";
            /** @enum {string} */
            turns?: "in turn" | "fewest open";
            /** @constant */
            atOnce?: true;
          };
          button: string;
          anew?: string[];
          signs?: {
            document: string | "";
            field: string | "";
            into?: string;
          };
          /** @enum {string} */
          beside?: "called off" | "stays";
          limit?: components["schemas"]["Limit"];
          offers?: {
            field: string;
            of: string;
          }[];
          byMail?: components["schemas"]["AskMail"];
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "choose";
          /** @constant */
          byValue?: true;
          ways: {
            id: string;
            name: string;
            when?: string;
            steps: components["schemas"]["__schema0"];
          }[];
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "together";
          needs?: number;
          until?: string;
          /** @constant */
          othersRunOn?: true;
          branches: {
            id: string;
            name: string;
            when?: string;
            steps: components["schemas"]["__schema0"];
          }[];
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "find";
          register: string;
          where?: string;
          sort?: {
            column: string;
            /** @constant */
            descending?: true;
          }[];
          /** @enum {string} */
          take: "first" | "last" | "some";
          most?: number;
          /** @constant */
          columns?: "all";
          /** @enum {string} */
          nothing: "on" | "stop";
          ways: {
            id: string;
            steps: components["schemas"]["__schema0"];
          }[];
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "for each";
          over:
            | {
                lines: string;
              }
            | {
                list: string;
              }
            | {
                times: string;
              };
          item: string;
          only?: string;
          gather?: {
            by: string;
            as: string;
          };
          atOnce?: number;
          collect?: string;
          until?: string;
          /** @constant */
          stuckHolds?: true;
          bodies: {
            id: string;
            steps: components["schemas"]["__schema0"];
          }[];
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "hand to";
          procedure: string;
          version?: string;
          takes: {
            id: string;
            name: string;
            /** @enum {string} */
            kind:
              | "text"
              | "long text"
              | "e-mail"
              | "web address"
              | "telephone"
              | "postal address"
              | "number"
              | "whole number"
              | "money"
              | "percentage"
              | "date"
              | "time"
              | "date and time"
              | "length of time"
              | "yes or no"
              | "choice"
              | "several choices"
              | "person"
              | "look-up"
              | "several records"
              | "look-up in several"
              | "file"
              | "files"
              | "signature"
              | "request"
              | "lines"
              | "section"
              | "page"
              | "text block";
            register?: string;
            registers?: string[];
            /** @constant */
            needed?: true;
            columns?: {
              id: string;
              name: string;
              /** @enum {string} */
              kind:
                | "text"
                | "long text"
                | "e-mail"
                | "web address"
                | "telephone"
                | "postal address"
                | "number"
                | "whole number"
                | "money"
                | "percentage"
                | "date"
                | "time"
                | "date and time"
                | "length of time"
                | "yes or no"
                | "choice"
                | "several choices"
                | "person"
                | "look-up"
                | "several records"
                | "look-up in several"
                | "file"
                | "files"
                | "signature"
                | "request"
                | "lines"
                | "section"
                | "page"
                | "text block";
              register?: string;
              registers?: string[];
            }[];
          }[];
          gives: {
            id: string;
            name: string;
            /** @enum {string} */
            kind:
              | "text"
              | "long text"
              | "e-mail"
              | "web address"
              | "telephone"
              | "postal address"
              | "number"
              | "whole number"
              | "money"
              | "percentage"
              | "date"
              | "time"
              | "date and time"
              | "length of time"
              | "yes or no"
              | "choice"
              | "several choices"
              | "person"
              | "look-up"
              | "several records"
              | "look-up in several"
              | "file"
              | "files"
              | "signature"
              | "request"
              | "lines"
              | "section"
              | "page"
              | "text block";
            register?: string;
            registers?: string[];
            /** @constant */
            needed?: true;
            columns?: {
              id: string;
              name: string;
              /** @enum {string} */
              kind:
                | "text"
                | "long text"
                | "e-mail"
                | "web address"
                | "telephone"
                | "postal address"
                | "number"
                | "whole number"
                | "money"
                | "percentage"
                | "date"
                | "time"
                | "date and time"
                | "length of time"
                | "yes or no"
                | "choice"
                | "several choices"
                | "person"
                | "look-up"
                | "several records"
                | "look-up in several"
                | "file"
                | "files"
                | "signature"
                | "request"
                | "lines"
                | "section"
                | "page"
                | "text block";
              register?: string;
              registers?: string[];
            }[];
          }[];
          values: {
            port: string;
            value: string;
          }[];
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "start request";
          process: string;
          takes: {
            id: string;
            name: string;
            /** @enum {string} */
            kind:
              | "text"
              | "long text"
              | "e-mail"
              | "web address"
              | "telephone"
              | "postal address"
              | "number"
              | "whole number"
              | "money"
              | "percentage"
              | "date"
              | "time"
              | "date and time"
              | "length of time"
              | "yes or no"
              | "choice"
              | "several choices"
              | "person"
              | "look-up"
              | "several records"
              | "look-up in several"
              | "file"
              | "files"
              | "signature"
              | "request"
              | "lines"
              | "section"
              | "page"
              | "text block";
            register?: string;
            registers?: string[];
            /** @constant */
            needed?: true;
            columns?: {
              id: string;
              name: string;
              /** @enum {string} */
              kind:
                | "text"
                | "long text"
                | "e-mail"
                | "web address"
                | "telephone"
                | "postal address"
                | "number"
                | "whole number"
                | "money"
                | "percentage"
                | "date"
                | "time"
                | "date and time"
                | "length of time"
                | "yes or no"
                | "choice"
                | "several choices"
                | "person"
                | "look-up"
                | "several records"
                | "look-up in several"
                | "file"
                | "files"
                | "signature"
                | "request"
                | "lines"
                | "section"
                | "page"
                | "text block";
              register?: string;
              registers?: string[];
            }[];
          }[];
          gives: {
            id: string;
            name: string;
            /** @enum {string} */
            kind:
              | "text"
              | "long text"
              | "e-mail"
              | "web address"
              | "telephone"
              | "postal address"
              | "number"
              | "whole number"
              | "money"
              | "percentage"
              | "date"
              | "time"
              | "date and time"
              | "length of time"
              | "yes or no"
              | "choice"
              | "several choices"
              | "person"
              | "look-up"
              | "several records"
              | "look-up in several"
              | "file"
              | "files"
              | "signature"
              | "request"
              | "lines"
              | "section"
              | "page"
              | "text block";
            register?: string;
            registers?: string[];
            /** @constant */
            needed?: true;
            columns?: {
              id: string;
              name: string;
              /** @enum {string} */
              kind:
                | "text"
                | "long text"
                | "e-mail"
                | "web address"
                | "telephone"
                | "postal address"
                | "number"
                | "whole number"
                | "money"
                | "percentage"
                | "date"
                | "time"
                | "date and time"
                | "length of time"
                | "yes or no"
                | "choice"
                | "several choices"
                | "person"
                | "look-up"
                | "several records"
                | "look-up in several"
                | "file"
                | "files"
                | "signature"
                | "request"
                | "lines"
                | "section"
                | "page"
                | "text block";
              register?: string;
              registers?: string[];
            }[];
          }[];
          values: {
            port: string;
            value: string;
          }[];
          waits: boolean;
          endsWith: boolean;
          /** @constant */
          asProcess?: true;
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "wait";
          for: (
            | {
                id: string;
                length: components["schemas"]["Length"];
              }
            | {
                id: string;
                date: string;
              }
            | {
                id: string;
                moment: string;
              }
            | {
                id: string;
                holds: string;
              }
          )[];
          /** @default [] */
          ways: {
            id: string;
            steps: components["schemas"]["__schema0"];
          }[];
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "write";
          /** @enum {string} */
          op: "add" | "change" | "remove" | "put";
          register: string;
          record?: string;
          key?: string;
          each?: string;
          values: {
            column: string;
            value: string;
          }[];
          /** @constant */
          own?: true;
          /** @constant */
          clears?: true;
          must?: string;
          /** @enum {string} */
          otherwise?: "stop" | "leave";
          /** @constant */
          quietly?: true;
          into?: string;
          /** @constant */
          keeps?: true;
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "apply";
          inputs: {
            id: string;
            formula: string;
            /** @constant */
            needed?: true;
          }[];
          outputs: {
            id: string;
            name: string;
            /** @enum {string} */
            kind: "text" | "number" | "yes or no" | "date" | "anything";
            values?: string[];
          }[];
          /** @enum {string} */
          hits: "unique" | "any" | "first" | "priority" | "collect" | "rule order" | "output order";
          /** @enum {string} */
          gathers?: "sum" | "min" | "max" | "count";
          rules: {
            id: string;
            when: {
              input: string;
              test: string;
            }[];
            then: {
              output: string;
              value: string;
            }[];
            note?: string;
          }[];
          otherwise?: {
            output: string;
            value: string;
          }[];
          /** @constant */
          none?: "empty";
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "work out";
          set: {
            field: string;
            value: string;
          }[];
          rows?: (
            | {
                id: string;
                lines: string;
                /** @constant */
                do: "set";
                column: string;
                value: string;
                where?: string;
              }
            | {
                id: string;
                lines: string;
                /** @constant */
                do: "add";
                from?: string;
                as?: string;
                values: {
                  column: string;
                  value: string;
                }[];
              }
            | {
                id: string;
                lines: string;
                /** @constant */
                do: "remove";
                where: string;
              }
            | {
                id: string;
                lines: string;
                /** @constant */
                do: "sort";
                by: string;
                /** @constant */
                descending?: true;
              }
          )[];
          own?: {
            name: string;
            value: string;
          }[];
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "draw up";
          document: string | "";
          called: string;
          /** @enum {string} */
          as: "docx" | "pdf" | "both";
          labels?: {
            of: string;
            heading: string;
            text: string;
            across: number;
            down: number;
            margin: number;
          };
          into?: string;
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "bring";
          what: string;
          to:
            | {
                /** @constant */
                outlet: "shelf";
                folder: string;
              }
            | {
                /** @constant */
                outlet: "print room";
                copies: string;
              };
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "tell";
          who: components["schemas"]["Rule"];
          subject: string;
          text: string;
          on?: string;
          mail?: {
            to?: string;
            copy?: string;
            blind?: string;
            replyTo?: string;
            files?: string;
            /** @constant */
            replies?: true;
            /** @constant */
            again?: true;
          };
          chat?: {
            room?: string;
          };
          /** @constant */
          own?: true;
          letter?: string;
          /** @default [] */
          ways: {
            id: string;
            steps: components["schemas"]["__schema0"];
          }[];
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "jump";
          to: string;
          when?: string;
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "finish";
          result: string;
          /** @enum {string} */
          tone: "agree" | "refuse" | "plain";
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "part";
          bodies: {
            id: string;
            steps: components["schemas"]["__schema0"];
          }[];
          limit?: components["schemas"]["Limit"];
        };
    AskMail: {
      subject: string;
      text: string;
      /** @enum {string} */
      link?: "signed in" | "free";
      /** @enum {string} */
      by?: "mail and chat" | "chat";
      fills?: string[];
      /** @constant */
      reply?: true;
      letter?: string;
    };
    Letter: {
      id: string;
      name: string;
      /** @constant */
      closes?: true;
      closing?: string;
      language?: string;
      /** @constant */
      byHand?: true;
      texts: {
        /**
         * @example en
         * @example pt-BR
         */
        language: string;
        subject: string;
        parts: components["schemas"]["LetterPart"][];
      }[];
      from?: {
        letter: string;
        version: number;
      };
    };
    LetterPart:
      | {
          /** @constant */
          part: "paragraph";
          runs: (
            | {
                text: string;
                /** @constant */
                bold?: true;
                /** @constant */
                italic?: true;
                link?: string;
              }
            | {
                value: string;
                /** @constant */
                bold?: true;
                /** @constant */
                italic?: true;
                link?: string;
              }
          )[];
        }
      | {
          /** @constant */
          part: "heading";
          runs: (
            | {
                text: string;
                /** @constant */
                bold?: true;
                /** @constant */
                italic?: true;
                link?: string;
              }
            | {
                value: string;
                /** @constant */
                bold?: true;
                /** @constant */
                italic?: true;
                link?: string;
              }
          )[];
        }
      | {
          /** @constant */
          part: "list";
          /** @constant */
          numbered?: true;
          items: (
            | {
                text: string;
                /** @constant */
                bold?: true;
                /** @constant */
                italic?: true;
                link?: string;
              }
            | {
                value: string;
                /** @constant */
                bold?: true;
                /** @constant */
                italic?: true;
                link?: string;
              }
          )[][];
        }
      | {
          /** @constant */
          part: "table";
          rows: (
            | {
                text: string;
                /** @constant */
                bold?: true;
                /** @constant */
                italic?: true;
                link?: string;
              }
            | {
                value: string;
                /** @constant */
                bold?: true;
                /** @constant */
                italic?: true;
                link?: string;
              }
          )[][][];
        }
      | {
          /** @constant */
          part: "lines";
          of: string;
          as: string;
          columns: {
            title: string;
            value: string;
          }[];
        }
      | {
          /** @constant */
          part: "when";
          when: string;
          parts: components["schemas"]["LetterPart"][];
        }
      | {
          /** @constant */
          part: "each";
          of: string;
          as: string;
          parts: (
            | {
                /** @constant */
                part: "paragraph";
                runs: (
                  | {
                      text: string;
                      /** @constant */
                      bold?: true;
                      /** @constant */
                      italic?: true;
                      link?: string;
                    }
                  | {
                      value: string;
                      /** @constant */
                      bold?: true;
                      /** @constant */
                      italic?: true;
                      link?: string;
                    }
                )[];
              }
            | {
                /** @constant */
                part: "heading";
                runs: (
                  | {
                      text: string;
                      /** @constant */
                      bold?: true;
                      /** @constant */
                      italic?: true;
                      link?: string;
                    }
                  | {
                      value: string;
                      /** @constant */
                      bold?: true;
                      /** @constant */
                      italic?: true;
                      link?: string;
                    }
                )[];
              }
            | {
                /** @constant */
                part: "list";
                /** @constant */
                numbered?: true;
                items: (
                  | {
                      text: string;
                      /** @constant */
                      bold?: true;
                      /** @constant */
                      italic?: true;
                      link?: string;
                    }
                  | {
                      value: string;
                      /** @constant */
                      bold?: true;
                      /** @constant */
                      italic?: true;
                      link?: string;
                    }
                )[][];
              }
            | {
                /** @constant */
                part: "table";
                rows: (
                  | {
                      text: string;
                      /** @constant */
                      bold?: true;
                      /** @constant */
                      italic?: true;
                      link?: string;
                    }
                  | {
                      value: string;
                      /** @constant */
                      bold?: true;
                      /** @constant */
                      italic?: true;
                      link?: string;
                    }
                )[][][];
              }
            | {
                /** @constant */
                part: "when";
                when: string;
                parts: (
                  | {
                      /** @constant */
                      part: "paragraph";
                      runs: (
                        | {
                            text: string;
                            /** @constant */
                            bold?: true;
                            /** @constant */
                            italic?: true;
                            link?: string;
                          }
                        | {
                            value: string;
                            /** @constant */
                            bold?: true;
                            /** @constant */
                            italic?: true;
                            link?: string;
                          }
                      )[];
                    }
                  | {
                      /** @constant */
                      part: "heading";
                      runs: (
                        | {
                            text: string;
                            /** @constant */
                            bold?: true;
                            /** @constant */
                            italic?: true;
                            link?: string;
                          }
                        | {
                            value: string;
                            /** @constant */
                            bold?: true;
                            /** @constant */
                            italic?: true;
                            link?: string;
                          }
                      )[];
                    }
                  | {
                      /** @constant */
                      part: "list";
                      /** @constant */
                      numbered?: true;
                      items: (
                        | {
                            text: string;
                            /** @constant */
                            bold?: true;
                            /** @constant */
                            italic?: true;
                            link?: string;
                          }
                        | {
                            value: string;
                            /** @constant */
                            bold?: true;
                            /** @constant */
                            italic?: true;
                            link?: string;
                          }
                      )[][];
                    }
                  | {
                      /** @constant */
                      part: "table";
                      rows: (
                        | {
                            text: string;
                            /** @constant */
                            bold?: true;
                            /** @constant */
                            italic?: true;
                            link?: string;
                          }
                        | {
                            value: string;
                            /** @constant */
                            bold?: true;
                            /** @constant */
                            italic?: true;
                            link?: string;
                          }
                      )[][][];
                    }
                )[];
              }
          )[];
        };
    DocumentTemplate: {
      id: string;
      name: string;
      file: {
        /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
        sha256: string;
        name: string;
        size: number;
      };
      tags: (
        | {
            /** @constant */
            tag: "value";
            of: string;
            piece: number;
            /** @enum {string} */
            in: "text" | "header" | "footer";
            near: string;
            /** @constant */
            apart?: true;
          }
        | {
            /** @constant */
            tag: "each";
            of: string;
            piece: number;
            /** @enum {string} */
            in: "text" | "header" | "footer";
            near: string;
            /** @constant */
            apart?: true;
          }
        | {
            /** @constant */
            tag: "if";
            of: string;
            piece: number;
            /** @enum {string} */
            in: "text" | "header" | "footer";
            near: string;
            /** @constant */
            apart?: true;
          }
        | {
            /** @constant */
            tag: "otherwise";
            piece: number;
            /** @enum {string} */
            in: "text" | "header" | "footer";
            near: string;
            /** @constant */
            apart?: true;
          }
        | {
            /** @constant */
            tag: "end";
            piece: number;
            /** @enum {string} */
            in: "text" | "header" | "footer";
            near: string;
            /** @constant */
            apart?: true;
          }
        | {
            /** @constant */
            tag: "picture";
            of: string;
            mm?: number;
            piece: number;
            /** @enum {string} */
            in: "text" | "header" | "footer";
            near: string;
            /** @constant */
            apart?: true;
          }
      )[];
      from?: {
        /** Format: uuid */
        template: string;
        version: number;
      };
    };
    StepSent:
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "decide";
          who: {
            rule: components["schemas"]["Rule"];
            /** @enum {string} */
            how: "one" | "first" | "all" | "share" | "number" | "order";
            share?: number;
            number?: number;
            wins?: string;
            /** @constant */
            waits?: true;
            /** @constant */
            ties?: "first";
            fallback?: components["schemas"]["Rule"];
            requesterToo?: boolean;
            never?: components["schemas"]["Rule"][];
            /** @constant */
            instead?: "manager";
            /** @enum {string} */
            turns?: "in turn" | "fewest open";
            /** @constant */
            atOnce?: true;
          };
          limit?: components["schemas"]["Limit"];
          offers?: {
            field: string;
            of: string;
          }[];
          byMail?: components["schemas"]["AskMail"];
          answers: {
            id: string;
            label: string;
            /** @enum {string} */
            tone: "agree" | "refuse" | "plain";
            /** @constant */
            note?: "must";
            words?: string;
            /** @constant */
            abstains?: true;
            /** @constant */
            returns?: true;
            /** @constant */
            byLadder?: true;
            anew?: string[];
            steps: components["schemas"]["__schema0"];
          }[];
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "complete";
          who: {
            rule: components["schemas"]["Rule"];
            /** @enum {string} */
            how: "one" | "first" | "all" | "share" | "number" | "order";
            share?: number;
            number?: number;
            wins?: string;
            /** @constant */
            waits?: true;
            /** @constant */
            ties?: "first";
            fallback?: components["schemas"]["Rule"];
            requesterToo?: boolean;
            never?: components["schemas"]["Rule"][];
            /** @constant */
            instead?: "manager";
            /** @enum {string} */
            turns?: "in turn" | "fewest open";
            /** @constant */
            atOnce?: true;
          };
          button: string;
          anew?: string[];
          signs?: {
            document: string | "";
            field: string | "";
            into?: string;
          };
          /** @enum {string} */
          beside?: "called off" | "stays";
          limit?: components["schemas"]["Limit"];
          offers?: {
            field: string;
            of: string;
          }[];
          byMail?: components["schemas"]["AskMail"];
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "choose";
          /** @constant */
          byValue?: true;
          ways: {
            id: string;
            name: string;
            when?: string;
            steps: components["schemas"]["__schema0"];
          }[];
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "together";
          needs?: number;
          until?: string;
          /** @constant */
          othersRunOn?: true;
          branches: {
            id: string;
            name: string;
            when?: string;
            steps: components["schemas"]["__schema0"];
          }[];
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "find";
          register: string;
          where?: string;
          sort?: {
            column: string;
            /** @constant */
            descending?: true;
          }[];
          /** @enum {string} */
          take: "first" | "last" | "some";
          most?: number;
          /** @constant */
          columns?: "all";
          /** @enum {string} */
          nothing: "on" | "stop";
          ways: {
            id: string;
            steps: components["schemas"]["__schema0"];
          }[];
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "for each";
          over:
            | {
                lines: string;
              }
            | {
                list: string;
              }
            | {
                times: string;
              };
          item: string;
          only?: string;
          gather?: {
            by: string;
            as: string;
          };
          atOnce?: number;
          collect?: string;
          until?: string;
          /** @constant */
          stuckHolds?: true;
          bodies: {
            id: string;
            steps: components["schemas"]["__schema0"];
          }[];
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "hand to";
          procedure: string;
          version?: string;
          takes: {
            id: string;
            name: string;
            /** @enum {string} */
            kind:
              | "text"
              | "long text"
              | "e-mail"
              | "web address"
              | "telephone"
              | "postal address"
              | "number"
              | "whole number"
              | "money"
              | "percentage"
              | "date"
              | "time"
              | "date and time"
              | "length of time"
              | "yes or no"
              | "choice"
              | "several choices"
              | "person"
              | "look-up"
              | "several records"
              | "look-up in several"
              | "file"
              | "files"
              | "signature"
              | "request"
              | "lines"
              | "section"
              | "page"
              | "text block";
            register?: string;
            registers?: string[];
            /** @constant */
            needed?: true;
            columns?: {
              id: string;
              name: string;
              /** @enum {string} */
              kind:
                | "text"
                | "long text"
                | "e-mail"
                | "web address"
                | "telephone"
                | "postal address"
                | "number"
                | "whole number"
                | "money"
                | "percentage"
                | "date"
                | "time"
                | "date and time"
                | "length of time"
                | "yes or no"
                | "choice"
                | "several choices"
                | "person"
                | "look-up"
                | "several records"
                | "look-up in several"
                | "file"
                | "files"
                | "signature"
                | "request"
                | "lines"
                | "section"
                | "page"
                | "text block";
              register?: string;
              registers?: string[];
            }[];
          }[];
          gives: {
            id: string;
            name: string;
            /** @enum {string} */
            kind:
              | "text"
              | "long text"
              | "e-mail"
              | "web address"
              | "telephone"
              | "postal address"
              | "number"
              | "whole number"
              | "money"
              | "percentage"
              | "date"
              | "time"
              | "date and time"
              | "length of time"
              | "yes or no"
              | "choice"
              | "several choices"
              | "person"
              | "look-up"
              | "several records"
              | "look-up in several"
              | "file"
              | "files"
              | "signature"
              | "request"
              | "lines"
              | "section"
              | "page"
              | "text block";
            register?: string;
            registers?: string[];
            /** @constant */
            needed?: true;
            columns?: {
              id: string;
              name: string;
              /** @enum {string} */
              kind:
                | "text"
                | "long text"
                | "e-mail"
                | "web address"
                | "telephone"
                | "postal address"
                | "number"
                | "whole number"
                | "money"
                | "percentage"
                | "date"
                | "time"
                | "date and time"
                | "length of time"
                | "yes or no"
                | "choice"
                | "several choices"
                | "person"
                | "look-up"
                | "several records"
                | "look-up in several"
                | "file"
                | "files"
                | "signature"
                | "request"
                | "lines"
                | "section"
                | "page"
                | "text block";
              register?: string;
              registers?: string[];
            }[];
          }[];
          values: {
            port: string;
            value: string;
          }[];
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "start request";
          process: string;
          takes: {
            id: string;
            name: string;
            /** @enum {string} */
            kind:
              | "text"
              | "long text"
              | "e-mail"
              | "web address"
              | "telephone"
              | "postal address"
              | "number"
              | "whole number"
              | "money"
              | "percentage"
              | "date"
              | "time"
              | "date and time"
              | "length of time"
              | "yes or no"
              | "choice"
              | "several choices"
              | "person"
              | "look-up"
              | "several records"
              | "look-up in several"
              | "file"
              | "files"
              | "signature"
              | "request"
              | "lines"
              | "section"
              | "page"
              | "text block";
            register?: string;
            registers?: string[];
            /** @constant */
            needed?: true;
            columns?: {
              id: string;
              name: string;
              /** @enum {string} */
              kind:
                | "text"
                | "long text"
                | "e-mail"
                | "web address"
                | "telephone"
                | "postal address"
                | "number"
                | "whole number"
                | "money"
                | "percentage"
                | "date"
                | "time"
                | "date and time"
                | "length of time"
                | "yes or no"
                | "choice"
                | "several choices"
                | "person"
                | "look-up"
                | "several records"
                | "look-up in several"
                | "file"
                | "files"
                | "signature"
                | "request"
                | "lines"
                | "section"
                | "page"
                | "text block";
              register?: string;
              registers?: string[];
            }[];
          }[];
          gives: {
            id: string;
            name: string;
            /** @enum {string} */
            kind:
              | "text"
              | "long text"
              | "e-mail"
              | "web address"
              | "telephone"
              | "postal address"
              | "number"
              | "whole number"
              | "money"
              | "percentage"
              | "date"
              | "time"
              | "date and time"
              | "length of time"
              | "yes or no"
              | "choice"
              | "several choices"
              | "person"
              | "look-up"
              | "several records"
              | "look-up in several"
              | "file"
              | "files"
              | "signature"
              | "request"
              | "lines"
              | "section"
              | "page"
              | "text block";
            register?: string;
            registers?: string[];
            /** @constant */
            needed?: true;
            columns?: {
              id: string;
              name: string;
              /** @enum {string} */
              kind:
                | "text"
                | "long text"
                | "e-mail"
                | "web address"
                | "telephone"
                | "postal address"
                | "number"
                | "whole number"
                | "money"
                | "percentage"
                | "date"
                | "time"
                | "date and time"
                | "length of time"
                | "yes or no"
                | "choice"
                | "several choices"
                | "person"
                | "look-up"
                | "several records"
                | "look-up in several"
                | "file"
                | "files"
                | "signature"
                | "request"
                | "lines"
                | "section"
                | "page"
                | "text block";
              register?: string;
              registers?: string[];
            }[];
          }[];
          values: {
            port: string;
            value: string;
          }[];
          waits: boolean;
          endsWith: boolean;
          /** @constant */
          asProcess?: true;
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "wait";
          for: (
            | {
                id: string;
                length: components["schemas"]["Length"];
              }
            | {
                id: string;
                date: string;
              }
            | {
                id: string;
                moment: string;
              }
            | {
                id: string;
                holds: string;
              }
          )[];
          /** @default [] */
          ways: {
            id: string;
            steps: components["schemas"]["__schema0"];
          }[];
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "write";
          /** @enum {string} */
          op: "add" | "change" | "remove" | "put";
          register: string;
          record?: string;
          key?: string;
          each?: string;
          values: {
            column: string;
            value: string;
          }[];
          /** @constant */
          own?: true;
          /** @constant */
          clears?: true;
          must?: string;
          /** @enum {string} */
          otherwise?: "stop" | "leave";
          /** @constant */
          quietly?: true;
          into?: string;
          /** @constant */
          keeps?: true;
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "apply";
          inputs: {
            id: string;
            formula: string;
            /** @constant */
            needed?: true;
          }[];
          outputs: {
            id: string;
            name: string;
            /** @enum {string} */
            kind: "text" | "number" | "yes or no" | "date" | "anything";
            values?: string[];
          }[];
          /** @enum {string} */
          hits: "unique" | "any" | "first" | "priority" | "collect" | "rule order" | "output order";
          /** @enum {string} */
          gathers?: "sum" | "min" | "max" | "count";
          rules: {
            id: string;
            when: {
              input: string;
              test: string;
            }[];
            then: {
              output: string;
              value: string;
            }[];
            note?: string;
          }[];
          otherwise?: {
            output: string;
            value: string;
          }[];
          /** @constant */
          none?: "empty";
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "work out";
          set: {
            field: string;
            value: string;
          }[];
          rows?: (
            | {
                id: string;
                lines: string;
                /** @constant */
                do: "set";
                column: string;
                value: string;
                where?: string;
              }
            | {
                id: string;
                lines: string;
                /** @constant */
                do: "add";
                from?: string;
                as?: string;
                values: {
                  column: string;
                  value: string;
                }[];
              }
            | {
                id: string;
                lines: string;
                /** @constant */
                do: "remove";
                where: string;
              }
            | {
                id: string;
                lines: string;
                /** @constant */
                do: "sort";
                by: string;
                /** @constant */
                descending?: true;
              }
          )[];
          own?: {
            name: string;
            value: string;
          }[];
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "draw up";
          document: string | "";
          called: string;
          /** @enum {string} */
          as: "docx" | "pdf" | "both";
          labels?: {
            of: string;
            heading: string;
            text: string;
            across: number;
            down: number;
            margin: number;
          };
          into?: string;
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "bring";
          what: string;
          to:
            | {
                /** @constant */
                outlet: "shelf";
                folder: string;
              }
            | {
                /** @constant */
                outlet: "print room";
                copies: string;
              };
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "tell";
          who: components["schemas"]["Rule"];
          subject: string;
          text: string;
          on?: string;
          mail?: {
            to?: string;
            copy?: string;
            blind?: string;
            replyTo?: string;
            files?: string;
            /** @constant */
            replies?: true;
            /** @constant */
            again?: true;
          };
          chat?: {
            room?: string;
          };
          /** @constant */
          own?: true;
          letter?: string;
          /** @default [] */
          ways: {
            id: string;
            steps: components["schemas"]["__schema0"];
          }[];
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "jump";
          to: string;
          when?: string;
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "finish";
          result: string;
          /** @enum {string} */
          tone: "agree" | "refuse" | "plain";
        }
      | {
          id: string;
          name: string;
          note?: string;
          stage?: string;
          /** @constant */
          kind: "part";
          bodies: {
            id: string;
            steps: components["schemas"]["__schema0"];
          }[];
          limit?: components["schemas"]["Limit"];
        };
    Edit:
      | {
          /** @constant */
          op: "process.set";
          patch: {
            name?: string | null;
            purpose?: string | null;
            numbering?: {
              prefix: string;
              digits: number;
            } | null;
            title?: string | null;
            calendar?: string | null;
            mailbox?: string | null;
            listed?: {
              under: string;
              place?: number;
            } | null;
            keepPersonalDays?: number | null;
            keepFilesDays?: number | null;
            mentions?: true | null;
            limit?: components["schemas"]["Limit"] | null;
          };
        }
      | {
          /** @constant */
          op: "process.replace";
          definition: components["schemas"]["ProcessDefinition"];
        }
      | {
          /** @constant */
          op: "start.put";
          /** @description The neighbour it stands behind; null for the first place */
          after: string | null;
          start: components["schemas"]["Start"];
        }
      | {
          /** @constant */
          op: "start.remove";
          id: string;
        }
      | {
          /** @constant */
          op: "start.move";
          id: string;
          /** @description The neighbour it stands behind; null for the first place */
          after: string | null;
        }
      | {
          /** @constant */
          op: "field.add";
          parent: string | null;
          /** @description The neighbour it stands behind; null for the first place */
          after: string | null;
          field: components["schemas"]["Field"];
        }
      | {
          /** @constant */
          op: "field.remove";
          id: string;
        }
      | {
          /** @constant */
          op: "field.move";
          id: string;
          parent: string | null;
          /** @description The neighbour it stands behind; null for the first place */
          after: string | null;
        }
      | {
          /** @constant */
          op: "field.set";
          id: string;
          patch: {
            kind?:
              | (
                  | "text"
                  | "long text"
                  | "e-mail"
                  | "web address"
                  | "telephone"
                  | "postal address"
                  | "number"
                  | "whole number"
                  | "money"
                  | "percentage"
                  | "date"
                  | "time"
                  | "date and time"
                  | "length of time"
                  | "yes or no"
                  | "choice"
                  | "several choices"
                  | "person"
                  | "look-up"
                  | "several records"
                  | "look-up in several"
                  | "file"
                  | "files"
                  | "signature"
                  | "request"
                  | "lines"
                  | "section"
                  | "page"
                  | "text block"
                )
              | null;
            label?: string | null;
            help?: string | null;
            text?: string | null;
            picture?: {
              /** @example 0000000000000000000000000000000000000000000000000000000000000000 */
              hash: string;
              says: string;
              width: number;
              height: number;
            } | null;
            needed?: string | null;
            shown?: string | null;
            worked?: string | null;
            copied?: true | null;
            fixed?: true | null;
            hand?: ("in" | "out" | "in and out") | null;
            starting?: string | null;
            offered?: string | null;
            personal?: true | null;
            checks?:
              | {
                  must: string;
                  records?: {
                    register: string;
                    /** @enum {string} */
                    there: "none" | "some";
                  };
                  say: string;
                  /** @constant */
                  passable?: true;
                  about?: string[];
                }[]
              | null;
            unique?: true | null;
            total?: true | null;
            min?: string | null;
            max?: string | null;
            options?: string[] | null;
            among?: {
              register: string;
              column: string;
            } | null;
            optionLabels?: {
              [key: string]: string;
            } | null;
            register?: string | null;
            registers?: string[] | null;
          };
        }
      | {
          /** @constant */
          op: "field.rename";
          id: string;
          name: string;
        }
      | {
          /** @constant */
          op: "columns.rename";
          register: string;
          columns: {
            id: string;
            from: string;
            to: string;
          }[];
        }
      | {
          /** @constant */
          op: "texts.restore";
          title: string;
          starts: components["schemas"]["Start"][];
          fields: components["schemas"]["Field"][];
          route: components["schemas"]["__schema0"];
          letters?: components["schemas"]["Letter"][];
          ladders?: {
            id: string;
            name: string;
            rungs: {
              id: string;
              /** @enum {string} */
              when: "before" | "at" | "after";
              length?: components["schemas"]["Length"];
              if?: string;
              every?: components["schemas"]["Length"];
              times?: number;
              action:
                | {
                    /** @constant */
                    do: "remind";
                  }
                | {
                    /** @constant */
                    do: "tell";
                    who: components["schemas"]["Rule"];
                    subject?: string;
                    text: string;
                    letter?: string;
                  }
                | {
                    /** @constant */
                    do: "add";
                    who: components["schemas"]["Rule"];
                  }
                | {
                    /** @constant */
                    do: "hand over";
                    to: components["schemas"]["Rule"];
                  }
                | {
                    /** @constant */
                    do: "answer";
                    answer: string;
                    note: string;
                  };
            }[];
            from?: {
              ladder: string;
              version: number;
            };
          }[];
          documents?: components["schemas"]["DocumentTemplate"][];
        }
      | {
          /** @constant */
          op: "letter.put";
          /** @description The neighbour it stands behind; null for the first place */
          after: string | null;
          letter: components["schemas"]["Letter"];
        }
      | {
          /** @constant */
          op: "letter.remove";
          id: string;
        }
      | {
          /** @constant */
          op: "letter.move";
          id: string;
          /** @description The neighbour it stands behind; null for the first place */
          after: string | null;
        }
      | {
          /** @constant */
          op: "ladder.put";
          /** @description The neighbour it stands behind; null for the first place */
          after: string | null;
          ladder: {
            id: string;
            name: string;
            rungs: {
              id: string;
              /** @enum {string} */
              when: "before" | "at" | "after";
              length?: components["schemas"]["Length"];
              if?: string;
              every?: components["schemas"]["Length"];
              times?: number;
              action:
                | {
                    /** @constant */
                    do: "remind";
                  }
                | {
                    /** @constant */
                    do: "tell";
                    who: components["schemas"]["Rule"];
                    subject?: string;
                    text: string;
                    letter?: string;
                  }
                | {
                    /** @constant */
                    do: "add";
                    who: components["schemas"]["Rule"];
                  }
                | {
                    /** @constant */
                    do: "hand over";
                    to: components["schemas"]["Rule"];
                  }
                | {
                    /** @constant */
                    do: "answer";
                    answer: string;
                    note: string;
                  };
            }[];
            from?: {
              ladder: string;
              version: number;
            };
          };
        }
      | {
          /** @constant */
          op: "ladder.remove";
          id: string;
        }
      | {
          /** @constant */
          op: "document.put";
          /** @description The neighbour it stands behind; null for the first place */
          after: string | null;
          document: components["schemas"]["DocumentTemplate"];
        }
      | {
          /** @constant */
          op: "document.remove";
          id: string;
        }
      | {
          /** @constant */
          op: "document.move";
          id: string;
          /** @description The neighbour it stands behind; null for the first place */
          after: string | null;
        }
      | {
          /** @constant */
          op: "access.set";
          step: string;
          field: string;
          access: ("edit" | "see" | "hide") | null;
        }
      | {
          /** @constant */
          op: "form.set";
          step: string;
          patch: {
            shows?: ("together" | "pages" | "guided") | null;
            heading?: string | null;
            help?: string | null;
            answers?: ("top" | "end") | null;
            parts?: string[] | null;
            columns?: string[] | null;
          };
        }
      | {
          /** @constant */
          op: "step.add";
          to: {
            owner: string | null;
            list: string | null;
          };
          /** @description The neighbour it stands behind; null for the first place */
          after: string | null;
          step: components["schemas"]["StepSent"];
        }
      | {
          /** @constant */
          op: "step.remove";
          id: string;
        }
      | {
          /** @constant */
          op: "step.move";
          id: string;
          to: {
            owner: string | null;
            list: string | null;
          };
          /** @description The neighbour it stands behind; null for the first place */
          after: string | null;
        }
      | {
          /** @constant */
          op: "step.set";
          id: string;
          patch: {
            [key: string]: unknown;
          };
        }
      | {
          /** @constant */
          op: "list.add";
          step: string;
          /** @description The neighbour it stands behind; null for the first place */
          after: string | null;
          list: {
            id: string;
            steps: components["schemas"]["__schema0"];
          } & {
            [key: string]: unknown;
          };
        }
      | {
          /** @constant */
          op: "list.remove";
          step: string;
          list: string;
        }
      | {
          /** @constant */
          op: "list.move";
          step: string;
          list: string;
          /** @description The neighbour it stands behind; null for the first place */
          after: string | null;
        }
      | {
          /** @constant */
          op: "list.set";
          step: string;
          list: string;
          patch: {
            [key: string]: unknown;
          };
        }
      | {
          /** @constant */
          op: "rung.add";
          step: string;
          /** @description The neighbour it stands behind; null for the first place */
          after: string | null;
          rung: {
            id: string;
            /** @enum {string} */
            when: "before" | "at" | "after";
            length?: components["schemas"]["Length"];
            if?: string;
            every?: components["schemas"]["Length"];
            times?: number;
            action:
              | {
                  /** @constant */
                  do: "remind";
                }
              | {
                  /** @constant */
                  do: "tell";
                  who: components["schemas"]["Rule"];
                  subject?: string;
                  text: string;
                  letter?: string;
                }
              | {
                  /** @constant */
                  do: "add";
                  who: components["schemas"]["Rule"];
                }
              | {
                  /** @constant */
                  do: "hand over";
                  to: components["schemas"]["Rule"];
                }
              | {
                  /** @constant */
                  do: "answer";
                  answer: string;
                  note: string;
                };
          };
        }
      | {
          /** @constant */
          op: "rung.remove";
          step: string;
          rung: string;
        }
      | {
          /** @constant */
          op: "rung.set";
          step: string;
          rung: string;
          patch: {
            when?: ("before" | "at" | "after") | null;
            length?: components["schemas"]["Length"] | null;
            if?: string | null;
            every?: components["schemas"]["Length"] | null;
            times?: number | null;
            action?:
              | (
                  | {
                      /** @constant */
                      do: "remind";
                    }
                  | {
                      /** @constant */
                      do: "tell";
                      who: components["schemas"]["Rule"];
                      subject?: string;
                      text: string;
                      letter?: string;
                    }
                  | {
                      /** @constant */
                      do: "add";
                      who: components["schemas"]["Rule"];
                    }
                  | {
                      /** @constant */
                      do: "hand over";
                      to: components["schemas"]["Rule"];
                    }
                  | {
                      /** @constant */
                      do: "answer";
                      answer: string;
                      note: string;
                    }
                )
              | null;
          };
        }
      | {
          /** @constant */
          op: "sample.put";
          /** @description The neighbour it stands behind; null for the first place */
          after: string | null;
          sample: {
            id: string;
            name: string;
            requester: string;
            data: components["schemas"]["FormData"];
            mail?: {
              sender: string;
              senderName: string;
              to: string[];
              subject: string;
              text: string;
              files: {
                name: string;
                size: number;
                type: string;
              }[];
            };
          };
        }
      | {
          /** @constant */
          op: "sample.remove";
          id: string;
        }
      | {
          /** @constant */
          op: "batch";
          edits: components["schemas"]["Edit"][];
        };
    DraftProblem: {
      /** @enum {string} */
      severity: "error" | "warning";
      code: string;
      where: {
        kind: string;
        id: string;
        place?: string;
      };
      message: string;
    };
    /** @description Column values: decimals as text, dates ISO, links and people as ids */
    Record: {
      id: string;
    } & {
      [key: string]: string | boolean | null;
    };
  };
  responses: never;
  parameters: never;
  requestBodies: never;
  headers: never;
  pathItems: never;
}
export type $defs = Record<string, never>;
export interface operations {
  listProcesses: {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    requestBody?: never;
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "processes": [
           *         {
           *           "key": "store-key",
           *           "name": "Store key",
           *           "purpose": "Who gets which key.",
           *           "version": "1.0.0"
           *         }
           *       ]
           *     }
           */
          "application/json": {
            processes: {
              key: string;
              name: string;
              purpose: string;
              version: string;
            }[];
          };
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  startRequest: {
    parameters: {
      query?: never;
      header?: {
        /** @description A second call with the same key makes no second request; it gives the number of the first. */
        "Idempotency-Key"?: string;
      };
      path: {
        process: string;
      };
      cookie?: never;
    };
    requestBody: {
      content: {
        /**
         * @example {
         *       "data": {
         *         "store": "4",
         *         "from": "2026-12-07",
         *         "until": "2026-12-09",
         *         "purpose": "Condition check",
         *         "trained": true
         *       }
         *     }
         */
        "application/json": {
          data: components["schemas"]["FormData"];
          /** @description Whom a program asks for, where that is somebody who does not work here */
          for?: {
            name: string;
            email: string;
          };
          /** @description What a record's page offers: the id of the start, and of the record */
          press?: {
            start: string;
            /** @example 42 */
            record: string;
          };
          /**
           * @description Why the caller goes on past checks that allow it, by what is under pass of a problem
           * @default {}
           */
          passed?: {
            [key: string]: string;
          };
        };
      };
    };
    responses: {
      /** @description Done */
      201: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "number": "KEY-0042"
           *     }
           */
          "application/json": {
            /** @description Request number, for example LOAN-0042 */
            number: string;
          };
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  listMyRequests: {
    parameters: {
      query?: {
        offset?: number;
        limit?: number;
      };
      header?: never;
      path?: never;
      cookie?: never;
    };
    requestBody?: never;
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "total": 1,
           *       "requests": [
           *         {
           *           "number": "KEY-0042",
           *           "title": "Cold room, Tower House",
           *           "process": "store-key",
           *           "status": "under way",
           *           "result": null,
           *           "started": "2026-12-01T09:12:00.000Z",
           *           "ended": null,
           *           "waitingFor": [
           *             "fintan.galloway"
           *           ]
           *         }
           *       ]
           *     }
           */
          "application/json": {
            requests: components["schemas"]["RequestSummary"][];
            /** @description Counted up to 5000, and where something is searched for up to 500; one more than that means that there are more. */
            total: number;
          };
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  readRequest: {
    parameters: {
      query?: never;
      header?: never;
      path: {
        number: string;
      };
      cookie?: never;
    };
    requestBody?: never;
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "number": "KEY-0042",
           *       "title": "Cold room, Tower House",
           *       "process": "store-key",
           *       "release": "1.0.0",
           *       "requester": "lucia.penrose",
           *       "asker": {
           *         "kind": "person",
           *         "name": "Lucia Penrose",
           *         "email": null
           *       },
           *       "status": "under way",
           *       "result": null,
           *       "started": "2026-12-01T09:12:00.000Z",
           *       "ended": null,
           *       "data": {
           *         "store": "4",
           *         "purpose": "Condition check"
           *       },
           *       "unclear": {},
           *       "stuck": [],
           *       "waiting": [
           *         {
           *           "task": "t3",
           *           "step": "Manager decides",
           *           "people": [
           *             "Fintan Galloway"
           *           ],
           *           "due": "2026-12-03T09:12:00.000Z"
           *         }
           *       ],
           *       "trail": [
           *         {
           *           "at": "2026-12-01T09:12:00.000Z",
           *           "by": "lucia.penrose",
           *           "text": "made the request",
           *           "note": ""
           *         }
           *       ]
           *     }
           */
          "application/json": {
            /** @description Request number, for example LOAN-0042 */
            number: string;
            title: string;
            process: string;
            release: string;
            /** @description Whose own it is: an account's id */
            requester: string | null;
            asker: components["schemas"]["Asker"];
            status: string;
            result: string | null;
            /**
             * Format: date-time
             * @description UTC, RFC 3339
             */
            started: string;
            ended: string | null;
            data: components["schemas"]["FormData"];
            unclear: {
              [key: string]: string;
            };
            stuck: string[];
            waiting: {
              task: string;
              step: string;
              people: string[];
              due: string | null;
            }[];
            trail: {
              /**
               * Format: date-time
               * @description UTC, RFC 3339
               */
              at: string;
              by: string | null;
              text: string;
              note: string;
            }[];
          };
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  withdrawRequest: {
    parameters: {
      query?: never;
      header?: never;
      path: {
        number: string;
      };
      cookie?: never;
    };
    requestBody: {
      content: {
        /**
         * @example {
         *       "note": "No longer needed."
         *     }
         */
        "application/json": {
          /** @default  */
          note?: string;
        };
      };
    };
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "number": "KEY-0042"
           *     }
           */
          "application/json": components["schemas"]["Done"];
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  listTasks: {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    requestBody?: never;
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "total": 1,
           *       "tasks": [
           *         {
           *           "request": "KEY-0042",
           *           "task": "t3",
           *           "step": "Manager decides",
           *           "title": "Cold room, Tower House",
           *           "process": "store-key",
           *           "requester": "lucia.penrose",
           *           "requesterName": "Lucia Penrose",
           *           "purpose": "decide",
           *           "status": "open",
           *           "opened": "2026-12-01T09:12:00.000Z",
           *           "due": "2026-12-03T09:12:00.000Z"
           *         }
           *       ]
           *     }
           */
          "application/json": {
            tasks: components["schemas"]["TaskSummary"][];
            total: number;
          };
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  readTask: {
    parameters: {
      query?: never;
      header?: never;
      path: {
        number: string;
        task: string;
      };
      cookie?: never;
    };
    requestBody?: never;
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "request": "KEY-0042",
           *       "task": "t3",
           *       "step": "Manager decides",
           *       "due": null,
           *       "seen": 6,
           *       "data": {
           *         "store": "4",
           *         "each": null
           *       },
           *       "unclear": {
           *         "each": "“Each” cannot be worked out: Nothing can be divided by zero."
           *       },
           *       "access": {
           *         "store": "see"
           *       },
           *       "offers": {
           *         "room": [
           *           "12",
           *           "15"
           *         ]
           *       },
           *       "answers": [
           *         {
           *           "id": "approve",
           *           "label": "Approve",
           *           "needsNote": false
           *         }
           *       ]
           *     }
           */
          "application/json": {
            /** @description Request number, for example LOAN-0042 */
            request: string;
            task: string;
            step: string;
            due: string | null;
            seen: number;
            data: components["schemas"]["FormData"];
            unclear: {
              [key: string]: string;
            };
            access: {
              [key: string]: "edit" | "see" | "hide";
            };
            /** @description By field or column, all that can be sent there; others are as their kind says */
            offers: {
              [key: string]: string[];
            };
            answers: {
              id: string;
              label: string;
              needsNote: boolean;
            }[];
          };
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  answerTask: {
    parameters: {
      query?: never;
      header?: never;
      path: {
        number: string;
        task: string;
      };
      cookie?: never;
    };
    requestBody: {
      content: {
        /**
         * @example {
         *       "answer": "approve",
         *       "note": "Fine with me.",
         *       "data": {},
         *       "seen": 6
         *     }
         */
        "application/json": {
          answer: string;
          /** @default  */
          note?: string;
          /** @default {} */
          data?: components["schemas"]["FormData"];
          seen: number;
          /**
           * @description Why the caller goes on past checks that allow it, by what is under pass of a problem
           * @default {}
           */
          passed?: {
            [key: string]: string;
          };
          /** @description Where an answer reads values anew and they are others now it is refused as read-anew, with what they come to under changes. Sent again with these by path it counts, if they are still so. */
          anew?: {
            [key: string]: string | boolean | null;
          };
        };
      };
    };
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "number": "KEY-0042"
           *     }
           */
          "application/json": components["schemas"]["Done"];
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  takeTask: {
    parameters: {
      query?: never;
      header?: never;
      path: {
        number: string;
        task: string;
      };
      cookie?: never;
    };
    requestBody?: never;
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "number": "KEY-0042"
           *     }
           */
          "application/json": components["schemas"]["Done"];
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  putBackTask: {
    parameters: {
      query?: never;
      header?: never;
      path: {
        number: string;
        task: string;
      };
      cookie?: never;
    };
    requestBody?: never;
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "number": "KEY-0042"
           *     }
           */
          "application/json": components["schemas"]["Done"];
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  handOverTask: {
    parameters: {
      query?: never;
      header?: never;
      path: {
        number: string;
        task: string;
      };
      cookie?: never;
    };
    requestBody: {
      content: {
        /**
         * @example {
         *       "to": "dermot.vane",
         *       "note": "You know the room."
         *     }
         */
        "application/json": {
          /** @description Person id */
          to: string;
          /** @default  */
          note?: string;
          /** @description They only say what they would answer; then it is the caller's again, who answers */
          back?: boolean;
        };
      };
    };
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "number": "KEY-0042"
           *     }
           */
          "application/json": components["schemas"]["Done"];
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  askAtTask: {
    parameters: {
      query?: never;
      header?: never;
      path: {
        number: string;
        task: string;
      };
      cookie?: never;
    };
    requestBody: {
      content: {
        /**
         * @example {
         *       "to": null,
         *       "note": "Which of the two rooms?"
         *     }
         */
        "application/json": {
          /** @description Person id; null for whoever made the request */
          to: string | null;
          /** @description What is asked */
          note: string;
        };
      };
    };
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "number": "KEY-0042"
           *     }
           */
          "application/json": components["schemas"]["Done"];
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  reassignTask: {
    parameters: {
      query?: never;
      header?: never;
      path: {
        number: string;
        task: string;
      };
      cookie?: never;
    };
    requestBody: {
      content: {
        /**
         * @example {
         *       "to": "dermot.vane",
         *       "note": "Left at the end of May."
         *     }
         */
        "application/json": {
          /** @description Person id */
          to: string;
          /** @description Why */
          note: string;
        };
      };
    };
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "number": "KEY-0042"
           *     }
           */
          "application/json": components["schemas"]["Done"];
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  addFile: {
    parameters: {
      query: {
        name: string;
      };
      header?: never;
      path?: never;
      cookie?: never;
    };
    requestBody: {
      content: {
        "application/octet-stream": string;
      };
    };
    responses: {
      /** @description Done */
      201: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "id": "Zk3v0c2oT8mJ4c1qQ9y7x5wB",
           *       "name": "quote.pdf",
           *       "size": 48211,
           *       "type": "application/pdf"
           *     }
           */
          "application/json": {
            id: string;
            name: string;
            /** @description Bytes */
            size: number;
            /** @description Media type, by the ending of the name */
            type: string;
          };
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  readFile: {
    parameters: {
      query?: never;
      header?: never;
      path: {
        file: string;
      };
      cookie?: never;
    };
    requestBody?: never;
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/octet-stream": string;
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  readDraft: {
    parameters: {
      query?: never;
      header?: never;
      path: {
        process: string;
      };
      cookie?: never;
    };
    requestBody?: never;
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "version": 12,
           *       "definition": {
           *         "format": "cobble-step/process@2",
           *         "key": "parking-permit",
           *         "name": "Parking permit",
           *         "purpose": "Who may park where.",
           *         "owners": [
           *           "tobias.marrin"
           *         ],
           *         "numbering": {
           *           "prefix": "PARK",
           *           "digits": 4
           *         },
           *         "title": "{Requester.name}",
           *         "starts": [
           *           {
           *             "id": "form",
           *             "kind": "form",
           *             "who": {
           *               "by": "everybody"
           *             }
           *           }
           *         ],
           *         "fields": [
           *           {
           *             "id": "car",
           *             "name": "Car",
           *             "kind": "text",
           *             "needed": "true"
           *           }
           *         ],
           *         "access": {},
           *         "route": [
           *           {
           *             "id": "end",
           *             "name": "Finish",
           *             "kind": "finish",
           *             "result": "given",
           *             "tone": "agree"
           *           }
           *         ],
           *         "samples": []
           *       }
           *     }
           */
          "application/json": {
            /** @description Counts edits; send it back with a change */
            version: number;
            definition: components["schemas"]["ProcessDefinition"];
          };
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  putDraft: {
    parameters: {
      query?: never;
      header?: never;
      path: {
        process: string;
      };
      cookie?: never;
    };
    requestBody: {
      content: {
        /**
         * @example {
         *       "version": 12,
         *       "definition": {
         *         "format": "cobble-step/process@2",
         *         "key": "parking-permit",
         *         "name": "Parking permit",
         *         "purpose": "Who may park where.",
         *         "owners": [
         *           "tobias.marrin"
         *         ],
         *         "numbering": {
         *           "prefix": "PARK",
         *           "digits": 4
         *         },
         *         "title": "{Requester.name}",
         *         "starts": [
         *           {
         *             "id": "form",
         *             "kind": "form",
         *             "who": {
         *               "by": "everybody"
         *             }
         *           }
         *         ],
         *         "fields": [
         *           {
         *             "id": "car",
         *             "name": "Car",
         *             "kind": "text",
         *             "needed": "true"
         *           }
         *         ],
         *         "access": {},
         *         "route": [
         *           {
         *             "id": "end",
         *             "name": "Finish",
         *             "kind": "finish",
         *             "result": "given",
         *             "tone": "agree"
         *           }
         *         ],
         *         "samples": []
         *       }
         *     }
         */
        "application/json": {
          version: number;
          definition: components["schemas"]["ProcessDefinition"];
        };
      };
    };
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "version": 13
           *     }
           */
          "application/json": {
            version: number;
          };
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  editDraft: {
    parameters: {
      query?: never;
      header?: never;
      path: {
        process: string;
      };
      cookie?: never;
    };
    requestBody: {
      content: {
        /**
         * @example {
         *       "version": 12,
         *       "edits": [
         *         {
         *           "op": "field.rename",
         *           "id": "purpose",
         *           "name": "Why you need it"
         *         }
         *       ]
         *     }
         */
        "application/json": {
          version: number;
          edits: components["schemas"]["Edit"][];
        };
      };
    };
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "version": 13
           *     }
           */
          "application/json": {
            version: number;
          };
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  listProblems: {
    parameters: {
      query?: never;
      header?: never;
      path: {
        process: string;
      };
      cookie?: never;
    };
    requestBody?: never;
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "problems": [
           *         {
           *           "severity": "error",
           *           "code": "unknown-name",
           *           "where": {
           *             "kind": "field",
           *             "id": "total",
           *             "place": "worked"
           *           },
           *           "message": "Nothing here is called \"Totl\"."
           *         }
           *       ]
           *     }
           */
          "application/json": {
            problems: components["schemas"]["DraftProblem"][];
          };
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  release: {
    parameters: {
      query?: never;
      header?: never;
      path: {
        process: string;
      };
      cookie?: never;
    };
    requestBody: {
      content: {
        /**
         * @example {
         *       "version": "1.1.0",
         *       "note": "Says how many days."
         *     }
         */
        "application/json": {
          version: string;
          /** @default  */
          note?: string;
        };
      };
    };
    responses: {
      /** @description Done */
      201: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "version": "1.1.0"
           *     }
           */
          "application/json": {
            version: string;
          };
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  listRegisters: {
    parameters: {
      query?: never;
      header?: never;
      path?: never;
      cookie?: never;
    };
    requestBody?: never;
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "registers": [
           *         {
           *           "key": "stores",
           *           "name": "Stores",
           *           "count": 28,
           *           "columns": [
           *             {
           *               "id": "name",
           *               "name": "Name",
           *               "kind": "text"
           *             }
           *           ]
           *         }
           *       ]
           *     }
           */
          "application/json": {
            registers: {
              key: string;
              name: string;
              count: number;
              columns: {
                id: string;
                name: string;
                kind: string;
              }[];
            }[];
          };
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  listRecords: {
    parameters: {
      query?: {
        offset?: number;
        limit?: number;
        search?: string;
        sort?: string;
        after?: string;
        fields?: string;
        where?: string;
      };
      header?: never;
      path: {
        register: string;
      };
      cookie?: never;
    };
    requestBody?: never;
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "total": 1,
           *       "next": null,
           *       "records": [
           *         {
           *           "id": "4",
           *           "name": "Strong room, Tower House",
           *           "risk_grade": "high"
           *         }
           *       ]
           *     }
           */
          "application/json": {
            records: components["schemas"]["Record"][];
            /** @description Counted up to 5000, and where something is searched for up to 500; one more than that means that there are more. */
            total: number;
            /** @description Where the next ones begin, to be sent as after; null at the end */
            next: string | null;
          };
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  addRecord: {
    parameters: {
      query?: never;
      header?: never;
      path: {
        register: string;
      };
      cookie?: never;
    };
    requestBody: {
      content: {
        /**
         * @example {
         *       "name": "Strong room, Annexe",
         *       "risk_grade": "high"
         *     }
         */
        "application/json": {
          [key: string]: string | boolean | null;
        };
      };
    };
    responses: {
      /** @description Done */
      201: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "id": "29",
           *       "version": "1240"
           *     }
           */
          "application/json": {
            id: string;
            version: string;
          };
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  readRecord: {
    parameters: {
      query?: never;
      header?: never;
      path: {
        register: string;
        record: string;
      };
      cookie?: never;
    };
    requestBody?: never;
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "record": {
           *         "id": "4",
           *         "name": "Strong room, Tower House",
           *         "key_status": "out"
           *       },
           *       "version": "1234",
           *       "history": [
           *         {
           *           "at": "2026-12-02T10:00:00.000Z",
           *           "by": "eamon.stack",
           *           "request": "KEY-0042",
           *           "did": "changed",
           *           "before": {
           *             "key_status": "in the cabinet"
           *           },
           *           "after": {
           *             "key_status": "out"
           *           }
           *         }
           *       ]
           *     }
           */
          "application/json": {
            record: components["schemas"]["Record"];
            /** @description To be sent back in If-Match with a change */
            version: string;
            history: {
              /**
               * Format: date-time
               * @description UTC, RFC 3339
               */
              at: string;
              by: string | null;
              request: string | null;
              did: string;
              before: {
                [key: string]: unknown;
              } | null;
              after: {
                [key: string]: unknown;
              } | null;
            }[];
          };
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  removeRecord: {
    parameters: {
      query?: {
        clear?: "links" | "";
      };
      header: {
        /** @description The version that was seen, as "1234", or * for whatever is there. Another by now: 412. */
        "If-Match": string;
      };
      path: {
        register: string;
        record: string;
      };
      cookie?: never;
    };
    requestBody?: never;
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "removed": true
           *     }
           */
          "application/json": {
            /** @constant */
            removed: true;
          };
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
  changeRecord: {
    parameters: {
      query?: never;
      header: {
        /** @description The version that was seen, as "1234", or * for whatever is there. Another by now: 412. */
        "If-Match": string;
      };
      path: {
        register: string;
        record: string;
      };
      cookie?: never;
    };
    requestBody: {
      content: {
        /**
         * @example {
         *       "risk_grade": "medium"
         *     }
         */
        "application/json": {
          [key: string]: string | boolean | null;
        };
      };
    };
    responses: {
      /** @description Done */
      200: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          /**
           * @example {
           *       "id": "4",
           *       "version": "1241"
           *     }
           */
          "application/json": {
            id: string;
            version: string;
          };
        };
      };
      /** @description Refused; detail says why in words (RFC 9457) */
      default: {
        headers: {
          [name: string]: unknown;
        };
        content: {
          "application/problem+json": components["schemas"]["Problem"];
        };
      };
    };
  };
}
