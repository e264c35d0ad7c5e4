/**
 * What calling a function takes beside what it counts itself, in steps of about a fifth of a microsecond: `call` each
 * time, `item` for each item of a list it is given. Measured by `npm run bench -- allowance`, which shows the function
 * that is slowest for its counted work; whatever is not named here costs the usual.
 */
export interface CallCost {
  call: number;
  item: number;
}
const USUAL: CallCost = { call: 8, item: 5 };

const SET: Readonly<Record<string, Partial<CallCost>>> = {
  // Texts are read, patterns looked up.
  number: { call: 25 },
  date: { call: 120 },
  time: { call: 130 },
  "date and time": { call: 450 },
  duration: { call: 40 },
  "years and months duration": { call: 230 },
  format: { call: 1700 },
  "day of year": { call: 40 },
  "day of week": { call: 40 },
  "month of year": { call: 40 },
  "week of year": { call: 110 },
  "last day of month": { call: 190 },
  now: { call: 4 },
  decimal: { call: 50 },
  "round half up": { call: 50 },
  "round half down": { call: 50 },
  "round half even": { call: 50 },
  "round up": { call: 50 },
  "round down": { call: 50 },
  is: { call: 30 },
  before: { call: 35 },
  after: { call: 35 },
  meets: { call: 35 },
  "met by": { call: 35 },
  overlaps: { call: 40 },
  "overlaps before": { call: 40 },
  "overlaps after": { call: 40 },
  finishes: { call: 35 },
  "finished by": { call: 35 },
  includes: { call: 35 },
  during: { call: 35 },
  starts: { call: 35 },
  "started by": { call: 35 },
  coincides: { call: 35 },
  // Items are gone through more than once, or compared.
  stddev: { item: 110 },
  sum: { item: 9 },
  product: { item: 9 },
  mean: { item: 9 },
  flatten: { item: 12 },
  mode: { item: 20 },
  min: { item: 8 },
  max: { item: 8 },
  median: { item: 15 },
  "index of": { item: 9 },
  "list contains": { item: 10 },
  "distinct values": { item: 15 },
  "duplicate values": { item: 10 },
  union: { item: 12 },
  "total by": { item: 25 },
};

const COSTS = new Map<string, CallCost>(Object.entries(SET).map(([name, c]) => [name, { ...USUAL, ...c }]));
export const costOf = (name: string): CallCost => COSTS.get(name) ?? USUAL;
