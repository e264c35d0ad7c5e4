/** The staff of Quillhaven Museums that the demo seeds. All are invented. */
export interface DemoPerson {
  id: string;
  name: string;
  job: string;
  department: string;
  site: string;
  manager: string | null;
  calendar?: string;
  zone?: string;
  office?: true;
  /** What picking this person shows in the demo. */
  shows?: string;
}

const p = (
  name: string,
  job: string,
  department: string,
  site: string,
  manager: string | null,
  more: Partial<DemoPerson> = {},
): DemoPerson => ({
  id: name
    .toLowerCase()
    .normalize("NFD")
    .replace(/[^a-z ]/g, "")
    .replace(/ /g, "."),
  name,
  job,
  department,
  site,
  manager,
  ...more,
});
const T = "Tower House",
  R = "Old Ropeworks",
  H = "Harbour Store",
  L = "Lakeside Annexe";

export const PEOPLE: DemoPerson[] = [
  p("Orla Fennimore", "Director", "Directorate", T, null, { shows: "decides loans above EUR 50,000" }),
  p("Tobias Marrin", "Head of Operations", "Directorate", T, "orla.fennimore", {
    office: true,
    shows: "owns Store key and Conservation supplies: Workshop, Progress, Office",
  }),
  p("Maeve Dunlea", "Registrar", "Registry", T, "orla.fennimore", {
    shows: "owns Object loan and checks every loan first",
  }),
  p("Ruben Aske", "Assistant registrar", "Registry", R, "maeve.dunlea", {
    shows: "asks for loans and keys; sees their way",
  }),
  p("Ines Corrigan", "Loans officer", "Registry", T, "maeve.dunlea"),
  p("Bram Tolliver", "Documentation officer", "Registry", H, "maeve.dunlea", {
    calendar: "part-time-mornings",
  }),
  p("Sorcha Lind", "Head of Conservation", "Conservation", R, "orla.fennimore", {
    shows: "decides for Conservation; holds its budget",
  }),
  p("Piet Hanlon", "Paper conservator", "Conservation", R, "sorcha.lind", {
    shows: "orders supplies: limits of twelve working hours",
  }),
  p("Yara Quill", "Textile conservator", "Conservation", R, "sorcha.lind"),
  p("Noel Abernathy", "Metals conservator", "Conservation", H, "sorcha.lind"),
  p("Katya Brody", "Conservation technician", "Conservation", R, "sorcha.lind", {
    calendar: "part-time-mornings",
  }),
  p("Dermot Vane", "Security manager", "Security", T, "tobias.marrin", {
    shows: "decides on exceptions and valuable loans",
  }),
  p("Hilde Sorensen", "Security officer", "Security", H, "dermot.vane", {
    shows: "in the duty desk group: takes shared tasks and puts them back",
  }),
  p("Cillian Roe", "Security officer", "Security", T, "dermot.vane"),
  p("Marguerite Oyelaran", "Security officer", "Security", R, "dermot.vane"),
  p("Fintan Galloway", "Head of Collections", "Collections", H, "orla.fennimore", {
    shows: "keeper of the Harbour stores: hands keys over",
  }),
  p("Lucia Penrose", "Curator of ceramics", "Collections", T, "fintan.galloway", {
    shows: "asks for store keys",
  }),
  p("Anselm Kerr", "Curator of maritime history", "Collections", H, "fintan.galloway"),
  p("Bridie Okafor", "Curator of textiles", "Collections", R, "fintan.galloway"),
  p("Tomas Wexley", "Collections assistant", "Collections", H, "fintan.galloway"),
  p("Greta Halloran", "Store keeper", "Collections", L, "fintan.galloway", {
    zone: "America/Halifax",
    calendar: "halifax",
    shows: "works in Halifax time",
  }),
  p("Eamon Stack", "Store keeper", "Collections", T, "fintan.galloway", {
    shows: "keeper of the Tower House stores",
  }),
  p("Wren Adeyemi", "Store keeper", "Collections", R, "fintan.galloway"),
  p("Aoife Lanigan", "Head of Learning", "Learning", T, "orla.fennimore"),
  p("Dov Merrick", "Learning officer", "Learning", T, "aoife.lanigan"),
  p("Siobhan Carrow", "Learning officer", "Learning", L, "aoife.lanigan"),
  p("Patrick Iverson", "Head of Finance", "Finance", T, "orla.fennimore", {
    shows: "away this week; Rosalind covers for him",
  }),
  p("Rosalind Meath", "Finance officer", "Finance", T, "patrick.iverson", {
    shows: "covers for Patrick Iverson",
  }),
  p("Hugo Brannock", "Head of Buildings", "Buildings", T, "tobias.marrin"),
  p("Nuala Svensson", "Buildings technician", "Buildings", R, "hugo.brannock"),
  p("Caspar Doyle", "Exhibitions technician", "Buildings", H, "hugo.brannock"),
];

export const GROUPS = [
  {
    key: "duty-desk",
    name: "Security duty desk",
    members: ["dermot.vane", "hilde.sorensen", "cillian.roe", "marguerite.oyelaran"],
  },
  {
    key: "registry",
    name: "Registry",
    members: ["maeve.dunlea", "ruben.aske", "ines.corrigan", "bram.tolliver"],
  },
];

const weekdays = (spans: [string, string][]) =>
  Object.fromEntries(["1", "2", "3", "4", "5"].map((d) => [d, spans]));
/** By the kept holidays of the country; on Good Friday the museums are open. */
const IRELAND = { country: "IE", works: ["Good Friday"] };
/** Entered by hand, a year back and a year on from the time of writing. */
const NOVA_SCOTIA = [
  "2025-12-25",
  "2025-12-26",
  "2026-01-01",
  "2026-02-16",
  "2026-04-03",
  "2026-05-18",
  "2026-07-01",
  "2026-08-03",
  "2026-09-07",
  "2026-10-12",
  "2026-11-11",
  "2026-12-25",
  "2027-01-01",
  "2027-02-15",
];

export const CALENDARS = [
  {
    key: "office",
    name: "Museum office",
    zone: "Europe/Dublin",
    week: weekdays([
      ["09:00", "13:00"],
      ["14:00", "17:30"],
    ]),
    holidays: [],
    publicHolidays: IRELAND,
  },
  {
    key: "part-time-mornings",
    name: "Mornings, Monday to Thursday",
    zone: "Europe/Dublin",
    week: Object.fromEntries(["1", "2", "3", "4"].map((d) => [d, [["09:00", "13:00"]]])),
    holidays: [],
    publicHolidays: IRELAND,
  },
  {
    key: "halifax",
    name: "Lakeside partner, Halifax",
    zone: "America/Halifax",
    week: weekdays([
      ["08:30", "12:30"],
      ["13:00", "16:30"],
    ]),
    holidays: NOVA_SCOTIA,
  },
];

/** Duties by person, for a site or department, or for all of it. */
export const DUTIES: { duty: string; person: string; site?: string; department?: string }[] = [
  { duty: "Director", person: "orla.fennimore" },
  { duty: "Registrar", person: "maeve.dunlea" },
  { duty: "Conservator for loans", person: "sorcha.lind" },
  { duty: "Security manager", person: "dermot.vane" },
  { duty: "Budget holder", person: "sorcha.lind", department: "Conservation" },
  { duty: "Budget holder", person: "fintan.galloway", department: "Collections" },
  { duty: "Budget holder", person: "maeve.dunlea", department: "Registry" },
  { duty: "Budget holder", person: "aoife.lanigan", department: "Learning" },
  { duty: "Budget holder", person: "hugo.brannock", department: "Buildings" },
  { duty: "Budget holder", person: "dermot.vane", department: "Security" },
  { duty: "Budget holder", person: "patrick.iverson", department: "Finance" },
  { duty: "Budget holder", person: "patrick.iverson" },
  { duty: "Head of Finance", person: "patrick.iverson" },
  { duty: "Head of department", person: "sorcha.lind", department: "Conservation" },
  { duty: "Head of department", person: "fintan.galloway", department: "Collections" },
  { duty: "Head of department", person: "aoife.lanigan", department: "Learning" },
  { duty: "Head of department", person: "hugo.brannock", department: "Buildings" },
  { duty: "Head of department", person: "patrick.iverson", department: "Finance" },
  { duty: "Head of department", person: "maeve.dunlea", department: "Registry" },
  { duty: "Head of department", person: "dermot.vane", department: "Security" },
];
