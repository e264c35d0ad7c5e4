import { anywhere, type ColumnSql } from "../column";

/** What can be asked of the request a column leads to. */
const asked = (what: string) => (name: string) =>
  `(select ${what} from request q join process_release l on l.id = q.release_id where q.number = ${name})`;

/** The number of a request. No key holds it, because requests stay. */
export const column: ColumnSql = {
  type: "text",
  comparable: () => true,
  read: (name) => name,
  compared: (name) => `nullif(${name}, '')`,
  indexed: (name, value) => `${name} = ${value}`,
  searched: true,
  names: false,
  entries: {
    number: { kind: "text", sql: (name) => `nullif(${name}, '')` },
    name: { kind: "text", sql: (name) => `nullif(${name}, '')` },
    process: { kind: "text", sql: asked("l.definition ->> 'name'") },
    status: { kind: "text", sql: asked("q.status") },
    result: { kind: "text", sql: asked("q.result") },
  },
  filter: (name, value, bind) => `${name} ilike ${bind(anywhere(value))}`,
};
