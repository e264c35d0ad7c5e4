import { Random } from "../random";
import { DUTIES } from "../people";

type Row = Record<string, string | boolean | null>;

const KINDS: Record<string, { things: string[]; of: string[]; values: [number, number] }> = {
  ceramic: {
    things: ["Jug", "Bowl", "Tureen", "Tile panel", "Charger", "Vase"],
    of: [
      "with herons",
      "with tulip band",
      "salt-glazed",
      "with harbour view",
      "blue on white",
      "with oak leaves",
    ],
    values: [120, 9000],
  },
  textile: {
    things: ["Sampler", "Shawl", "Banner", "Quilt", "Apron", "Tapestry"],
    of: [
      "of the ropewalk guild",
      "with border of waves",
      "indigo dyed",
      "with gulls",
      "from Lakeside",
      "with initials M.T.",
    ],
    values: [80, 14000],
  },
  painting: {
    things: [
      "Harbour at dusk",
      "Portrait of a pilot",
      "The old ropewalk",
      "Winter quay",
      "Ferry in fog",
      "Still life with lamp",
    ],
    of: ["oil on canvas", "oil on panel", "tempera", "watercolour"],
    values: [1500, 68000],
  },
  print: {
    things: ["View of Tower House", "Plan of the quays", "Broadside", "Fish market", "Almanac leaf"],
    of: ["etching", "lithograph", "woodcut", "engraving"],
    values: [60, 2400],
  },
  "ship model": {
    things: ["Brig", "Pilot cutter", "Paddle tug", "Herring drifter", "Schooner"],
    of: ["in glass case", "half hull", "fully rigged", "builder's model"],
    values: [900, 22000],
  },
  instrument: {
    things: ["Sextant", "Barometer", "Telescope", "Tide gauge", "Compass"],
    of: ["brass", "in mahogany box", "signed", "with stand"],
    values: [300, 12000],
  },
  furniture: {
    things: ["Settle", "Chart table", "Desk", "Bench", "Cabinet"],
    of: ["oak", "pine, painted", "walnut", "from the pilot office"],
    values: [200, 8000],
  },
  coin: {
    things: ["Token", "Penny", "Medal", "Weight"],
    of: ["of the ferry company", "copper", "silver", "for lifesaving"],
    values: [10, 1800],
  },
  photograph: {
    things: ["Launch day", "Rope makers", "School outing", "Flood of the quays", "Crew portrait"],
    of: ["albumen print", "glass negative", "gelatin print"],
    values: [20, 900],
  },
  tool: {
    things: ["Caulking mallet", "Fid", "Serving board", "Marlinspike", "Net needle"],
    of: ["lignum", "iron", "bone", "with owner's mark"],
    values: [15, 400],
  },
};
const SITES = ["Tower House", "Old Ropeworks", "Harbour Store", "Lakeside Annexe"];
const money = (n: number) => n.toFixed(2);
const isoDay = (ms: number) => new Date(ms).toISOString().slice(0, 10);

/** Some objects have been forgotten: no check is planned for them. */
const unplanned = (i: number, day: string): string | null => (i % 37 === 11 ? null : day);

/** About 2,000 objects. `now` places the next checks around today. */
export function objectRows(now: number, count = 2000): Row[] {
  const r = new Random(4711);
  return Array.from({ length: count }, (_, i) => {
    const kind = r.pick(Object.keys(KINDS));
    const k = KINDS[kind]!;
    const value = k.values[0] + Math.pow(r.next(), 3) * (k.values[1] - k.values[0]);
    const thing = r.pick(k.things);
    return {
      accession_number: `QH.${1890 + (i % 130)}.${String(1 + Math.floor(i / 130) * 7 + (i % 7)).padStart(3, "0")}.${i % 10}`,
      title: `${thing}, ${r.pick(k.of)}`,
      kind,
      site: r.pick(SITES),
      shelf: `${r.pick(["A", "B", "C", "D", "E"])}${r.int(1, 40)}.${r.int(1, 6)}`,
      status:
        (r.chance(0.78) && "in store") ||
        (r.chance(0.7) && "on show") ||
        (r.chance(0.5) && "in treatment") ||
        "on loan",
      condition_grade: r.pick(["A", "A", "B", "B", "B", "C", "D"]),
      insured_value: money(Math.round(value / 5) * 5),
      next_check: unplanned(i, isoDay(now + r.int(-20, 380) * 86_400_000)),
      last_handled: null,
      last_handled_by: null,
    };
  });
}

export function borrowerRows(count = 120): Row[] {
  const r = new Random(99);
  const places = [
    ["Velmar", "Sweden"],
    ["Tarnbridge", "United Kingdom"],
    ["Ostrel", "Netherlands"],
    ["Calloway Bay", "Canada"],
    ["Brunnfeld", "Germany"],
    ["Sant Orell", "Spain"],
    ["Ardcarrow", "Ireland"],
    ["Lunevoy", "France"],
    ["Hollin Sound", "Norway"],
    ["Porto Fero", "Portugal"],
  ];
  const kinds = [
    "City Museum",
    "Maritime Centre",
    "Art Hall",
    "Museum of Craft",
    "University Collection",
    "Heritage Trust",
    "House of Textiles",
    "Print Cabinet",
    "Folk Museum",
    "Science Rooms",
    "Harbour Gallery",
    "Regional Archive",
  ];
  const first = ["Astrid", "Colm", "Beatriz", "Jonas", "Mirela", "Owen", "Greet", "Henrik", "Salome", "Ivo"];
  const last = ["Varga", "Linden", "Moreau", "Castell", "Haugen", "Prior", "Duarte", "Weller"];
  return Array.from({ length: count }, (_, i) => {
    const [town, country] = places[i % places.length]!;
    const kind = kinds[Math.floor(i / places.length) % kinds.length]!;
    return {
      name: `${town} ${kind}`,
      country: country!,
      contact: `${r.pick(first)} ${r.pick(last)}`,
      email: `loans@${`${town}-${kind}`.toLowerCase().replace(/[^a-z]+/g, "-")}.example`,
      standing: (r.chance(0.85) && "good") || (r.chance(0.7) && "watched") || "suspended",
      climate_report: r.chance(0.8),
    };
  });
}

export function storeRows(): Row[] {
  const keepers: Record<string, string> = {
    "Tower House": "eamon.stack",
    "Old Ropeworks": "wren.adeyemi",
    "Harbour Store": "fintan.galloway",
    "Lakeside Annexe": "greta.halloran",
  };
  const rooms = [
    "Cold room",
    "Picture store",
    "Textile store",
    "Strong room",
    "Large objects hall",
    "Archive vault",
    "Quarantine room",
  ];
  return SITES.flatMap((site) =>
    rooms.map((room, i) => ({
      name: `${room}, ${site}`,
      site,
      keeper: keepers[site]!,
      risk_grade: ["medium", "medium", "low", "high", "low", "medium", "high"][i]!,
      key_status: "in the cabinet",
      key_holder: null,
    })),
  );
}

export const roleRows = (): Row[] =>
  DUTIES.map((d) => ({
    duty: d.duty,
    person: d.person,
    site: d.site ?? null,
    department: d.department ?? null,
    source: "set up",
  }));

/** Kinds of tickets: price, fee for moving, how much is paid back, up to how many days before. */
export const ticketRows = (): Row[] =>
  (
    [
      ["Day ticket, grown-up", 14, 2, 80, 7],
      ["Day ticket, child", 6, 1, 80, 7],
      ["School class, each", 4.5, 0, 100, 14],
      ["Evening tour", 22, 5, 50, 3],
      ["Year ticket", 48, 10, 25, 30],
    ] as const
  ).map(([ticket, price, moving, back, days]) => ({
    ticket,
    price: price.toFixed(2),
    moving: moving.toFixed(2),
    back: String(back),
    days: String(days),
  }));

export function priceRows(): Row[] {
  const r = new Random(12);
  const items: [string, string, string, number][] = [
    ["Acid-free tissue", "packing", "ream", 38.4],
    ["Archival box, large", "packing", "piece", 21.15],
    ["Archival box, small", "packing", "piece", 12.9],
    ["Polyethylene foam", "packing", "sheet", 9.75],
    ["Nitrile gloves", "protection", "box of 100", 11.2],
    ["Dust masks", "protection", "box of 20", 16.8],
    ["Lab coat", "protection", "piece", 34],
    ["Soft brush set", "tools", "set", 42.5],
    ["Scalpel handles", "tools", "piece", 6.35],
    ["Scalpel blades", "tools", "box of 100", 18.9],
    ["Magnifier lamp", "tools", "piece", 189],
    ["Hygrometer", "tools", "piece", 74.5],
    ["Deionised water", "cleaning", "10 l", 13.6],
    ["Vulcanised sponge", "cleaning", "piece", 8.2],
    ["Cotton swabs", "cleaning", "box of 500", 10.4],
    ["Museum vacuum filter", "cleaning", "piece", 57.3],
    ["Wheat starch paste", "adhesives", "500 g", 19.7],
    ["Japanese paper", "adhesives", "roll", 64],
    ["Methyl cellulose", "adhesives", "250 g", 23.1],
    ["Fish glue", "adhesives", "100 ml", 15.55],
    ["Colour chart", "documentation", "piece", 96],
    ["Pencils 2B", "documentation", "dozen", 9.3],
    ["Tyvek labels", "documentation", "roll", 27.4],
    ["Data logger", "documentation", "piece", 132],
  ];
  return items.map(([item, category, unit, price]) => ({
    item,
    category,
    unit,
    price: money(price + r.int(0, 3) * 0.05),
  }));
}
