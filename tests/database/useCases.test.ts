import * as services from "@/services";
import { SYSTEM, type Actor } from "@/services";
import { NOBODY } from "@/core/form";
import { KINDS } from "@/kinds";
import { openWorld, orderOf, person } from "./world";

let world: Awaited<ReturnType<typeof openWorld>>;
beforeAll(async () => void (world = await openWorld()));
afterAll(() => world.close());

/** What is exported besides use cases, and why nobody need be asked about it. */
const OTHERS: Record<string, string> = {
  SYSTEM: "an actor",
  EFFECT_PAYLOAD: "a schema",
  MAX_FILE_BYTES: "a number",
  fail: "makes a value",
  ok: "makes a value",
  failureStatus: "words",
  sentenceOf: "words",
  timeIn: "words",
  actorOf: "tells who somebody is",
  actorOfKey: "tells who somebody is",
  actorOfSession: "tells who somebody is",
  signIn: "tells who somebody is",
  proveAnew: "tells who somebody is",
  linkPerson: "tells whose link it is",
  setPasswordByLink: "tells who somebody is, by a link made for them",
  readSettings: "reads what it is given",
  settingsNow: "the settings of this process",
  signOut: "ends a session by its token",
  becomePerson: "demo only, refused elsewhere by the page",
  hashPassword: "computes",
  peopleOfDemo: "demo only, refused elsewhere by the page",
  nowFor: "the clock",
  onChanges: "ticks without contents",
  healthOf: "whether the database answers",
  PROVIDER_WHYS: "words",
  MOST_IN_VIEW: "how far views are counted",
  PEOPLE_PAGE: "how many stand on a page",
  MOST_COUNTED: "how far lists are counted",
  MOST_FOUND: "how far what is found is counted",
  mostCounted: "how far a list is counted",
  providerName: "a setting",
  goToProvider: "sends somebody to the provider of sign-ins",
  comeBack: "tells who somebody is, as the provider says",
  beginOffice: "for the command line; refused once somebody has the rights",
  markDemo: "for the demo's own seeding",
  isDemoDatabase: "whether the demo filled it",
  callerAddress: "whom this runs for",
  forCaller: "runs what it is given",
  failureOf: "makes a value",
};
const blank = {
  format: "cobble-step/process@2" as const,
  key: "use-cases",
  name: "Use cases",
  purpose: "",
  owners: ["lucia.penrose"],
  numbering: { prefix: "USE", digits: 4 },
  title: "",
  starts: [KINDS.starts.form.blank("form")],
  fields: [],
  access: {},
  route: [],
  samples: [],
};
/** Something to call each with: nothing here exists, or is anybody's business. */
const BLANK = {
  format: "cobble-step/register@1",
  key: "nothing",
  name: "N",
  one: "n",
  purpose: "",
  columns: [],
  title: [],
};
const CALLS: Record<string, unknown[]> = {
  act: ["KEY-9999", { type: "withdraw", note: "" }],
  addAway: ["nobody", "2099-01-01", "2099-01-02", null],
  addDuty: ["nobody", "Duty", { site: null, department: null }],
  addPerson: [{}],
  addFile: ["a.txt", Buffer.from("a")],
  addService: ["Some service", ""],
  answerProposal: ["nothing", ["una"], true],
  askOthers: [],
  askPage: ["nothing", "d"],
  awayTimes: ["nobody"],
  badges: [],
  beginProcedure: ["Some procedure"],
  beginProcess: ["Some process", "SOME"],
  blankDue: [],
  bringPeople: ["Name", "0"],
  catalogue: [],
  changePassword: ["short"],
  callOff: ["999999999"],
  changePerson: ["nobody", {}],
  closeProcess: ["nothing"],
  closePerson: ["nobody", null],
  copyProcess: ["nothing", "Copy", "COPY"],
  createProcess: [blank],
  deadJobs: [],
  deliver: ["1", { kind: "tell", id: "e1", step: "s", people: [], subject: "", text: "" }],
  deleteProcess: ["nothing"],
  desk: [],
  draftProblems: ["nothing"],
  draftSince: ["nothing", 0],
  draftView: ["nothing"],
  dropAskDraft: ["00000000-0000-0000-0000-000000000000"],
  editDraft: ["nothing", 0, []],
  find: ["x"],
  findPeople: ["x"],
  endOwnSession: ["1"],
  erasePerson: ["nobody"],
  exportLog: [{ kind: "", person: "", before: "" }],
  fireTimers: ["1"],
  requestEnded: ["999999999"],
  goOn: ["1"],
  lookAt: ["999999999"],
  startFromRecords: [],
  lookDates: [],
  startByTimetable: [],
  changeRegister: ["nothing", BLANK, BLANK],
  columnSheet: ["nothing"],
  makeRegister: [BLANK],
  shapeHits: ["nothing", BLANK],
  pauseStart: ["nothing", "s", null],
  startsFaring: ["nothing"],
  changeRecords: ["nothing", ["1"], "name", "x"],
  dropRecordDraft: ["nothing", null],
  putBack: ["nothing", "1"],
  recordForm: ["nothing", null],
  registerNames: [],
  removeRecord: ["nothing", "1", null, false],
  removeRecords: ["nothing", ["1"]],
  saveRecord: ["nothing", null, null, {}],
  saveRecordDraft: ["nothing", null, { typed: {}, base: {}, version: null }],
  lookEverywhere: [],
  indexRegisters: [],
  lateTask: ["KEY-9999", "t1"],
  leftText: [0],
  listKeys: [],
  listServices: [],
  logPage: [{ kind: "", person: "", before: "" }],
  lookUp: ["nothing", ""],
  makeKey: ["una", "x"],
  makePasswordLink: ["nobody"],
  moveClock: [1000, false],
  myRequests: [0, 10],
  nameOwner: ["nothing", "una"],
  newPerson: [],
  newsWanted: [],
  noticesOf: [],
  officePage: [],
  openProcess: ["nothing"],
  openPerson: ["nobody"],
  ownSessions: [],
  ownedProcesses: [],
  ownersView: ["nothing"],
  personPage: ["nobody"],
  placesPage: [],
  previewPeople: ["Name"],
  proposalsForMe: [],
  proposeOwners: ["nothing", ["una"], ""],
  progressCounts: [null],
  progress: [{ search: "", offset: 0, limit: 10 }],
  putCalendar: [null, { name: "", zone: "", week: {}, holidays: [] }],
  putGroup: [null, "", []],
  queueDueTimers: [],
  readFile: ["nothing"],
  readNotices: ["1"],
  recordPage: ["nothing", "1"],
  maySayRights: ["nothing"],
  registerList: [],
  rightsPage: ["nothing"],
  setRegisterRights: ["nothing", NOBODY, {}],
  registerPage: ["nothing", { search: "", filters: [], sort: [], offset: 0, limit: 10 }],
  settleJob: ["1", "drop"],
  sampleValues: ["nothing", "s"],
  stepPreview: ["nothing", "f", "s"],
  showsOf: ["/requests/KEY-9999"],
  renamePlace: ["site", "Nowhere", "Elsewhere"],
  removeAway: ["nobody", "1"],
  removeCalendar: ["nothing"],
  removeDuty: ["1"],
  removeGroup: ["nothing"],
  releaseDraft: ["nothing", "1.0.0", ""],
  releasedDefinition: ["nothing", "1"],
  releasePage: ["nothing"],
  requestView: ["KEY-9999"],
  replayRequests: [],
  revokeKey: ["1"],
  saveAskDraft: ["supplies", "00000000-0000-0000-0000-000000000001", {}],
  saveTaskDraft: ["KEY-9999", "t1", "00000000-0000-0000-0000-000000000002", {}, ""],
  setRights: ["nobody", false],
  setService: ["nothing", false],
  startRequest: ["nothing", orderOf(1)],
  sweepEnded: [],
  sweepFiles: [],
  taskView: ["KEY-9999", "t1"],
  wantNews: ["stuck", false],
  usesOf: ["register", "nothing"],
  whereUsed: ["nothing"],
  workshopList: [],
};
type UseCase = ((actor: Actor, ...args: unknown[]) => Promise<unknown>) & { asks: readonly string[] };
const exported = Object.entries(services).filter(([name]) => !(name in OTHERS)) as [string, UseCase][];

it("every exported use case names the deeds it asks the policy about, and is tried here", () => {
  const without = exported.filter(([, f]) => !Array.isArray(f.asks) || f.asks.length === 0);
  expect(without.map(([name]) => name)).toEqual([]);
  expect(exported.map(([name]) => name).sort()).toEqual(Object.keys(CALLS).sort());
  expect(Object.keys(OTHERS).filter((name) => !(name in services))).toEqual([]);
});

it.each(Object.keys(CALLS))("%s asks the policy, whoever calls, and breaks for nobody", async (name) => {
  const run = (services as unknown as Record<string, UseCase>)[name]!;
  for (const actor of [await person("bridie.okafor"), await person("tobias.marrin"), SYSTEM])
    // A use case that gave something back without having asked would throw.
    await expect(run(actor, ...CALLS[name]!)).resolves.not.toThrow();
});

it("a person may do nothing that is for workers, and workers nothing that is for people", async () => {
  const lucia = await person("lucia.penrose");
  expect(await services.sweepFiles(lucia)).toBe(0);
  expect(await services.askOthers(lucia)).toBe(0);
  expect(await services.fireTimers(lucia, "1")).toMatchObject({ fired: 0 });
  // It says nothing of whether there is such a request, and does nothing with it.
  await expect(services.goOn(lucia, "1")).resolves.toBeUndefined();
  expect(await services.startRequest(SYSTEM, "supplies", orderOf(1))).toMatchObject({
    ok: false,
    failure: { code: "not-found" },
  });
});
