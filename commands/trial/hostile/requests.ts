import { plainDraft } from "#core/edition/blocks";
import { randomUUID } from "node:crypto";
import { seeded } from "#demo/random";
import routes from "../../../app/routes.ts";
import { MARKETS, NOW } from "./world.ts";

/** A request that may be anything. */
export interface Wild {
  method: string;
  path: string;
  type: string | undefined;
  body: string | Uint8Array<ArrayBuffer> | undefined;
}

interface RouteLike {
  path?: string;
  index?: boolean;
  children?: RouteLike[];
}

/** Every address of the application, its parts in colons. */
export function addresses(list: readonly RouteLike[] = routes, before = ""): string[] {
  return list.flatMap(({ path = "", index, children = [] }) => {
    const own = [before, path].filter(Boolean).join("/");
    return [...(index || (path && children.length === 0) ? [`/${own}`] : []), ...addresses(children, own)];
  });
}

/** What is left alone, for it would end the session of whoever asks: tested where it is built. */
const LEFT = new Set(["/sign-out", "/account", "/people"]);

const WORDS = [
  "",
  "..",
  ".",
  "%2e%2e",
  "constructor",
  "__proto__",
  "toString",
  "TIN",
  "t\u00edn",
  "tin ",
  "'; DROP TABLE markets; --",
  "<script>",
  "=1+1",
  "\u{1f9ed}",
  "a".repeat(300),
  "-1",
  "0",
  "1e308",
  "NaN",
  "Infinity",
  "null",
  "P999Y",
  "PT0M",
  "P1D",
  "PT1M",
  "../../etc/passwd",
  "2026-02-31",
  "1".repeat(40),
];
const NUMBERS = [
  0,
  -0,
  1,
  -1,
  0.5,
  1e308,
  -1e308,
  1e-300,
  2 ** 53,
  2 ** 31,
  -(2 ** 31) - 1,
  NOW,
  8.64e15,
  8.64e15 + 1,
  NaN,
];
const TEXTS = [
  "",
  "x".repeat(5_000),
  "\ud800",
  "\u0000",
  "a\r\nb: c",
  "=cmd|' /C calc'!A0",
  "\u202etxt",
  "{{7*7}}",
  "<img src=x onerror=alert(1)>",
  "\u{1f9ed}".repeat(50),
  "' OR '1'='1",
];
const QUERY = [
  "from",
  "to",
  "bottom",
  "top",
  "log",
  "format",
  "rung",
  "hours",
  "asOf",
  "at",
  "page",
  "history",
  "name",
  "upload",
  "zone",
  "order",
  "list",
  "chart",
  "what",
  "before",
  "then",
  "index",
  "version",
  "plan",
  "q",
  "_routes",
];

const ID = randomUUID();
const mark = {
  id: ID,
  kind: "level",
  rung: "P1D",
  anchors: [{ time: NOW, price: 1 }],
  props: { label: "a" },
  note: "",
};
const session = { days: [1, 2, 3], open: "08:00", close: "16:00", opensDayBefore: false, kind: "regular" };
const scenario = {
  id: ID,
  title: "A",
  premise: "",
  direction: "long",
  trigger: { event: "closeAbove", price: 2, timeframe: "P1D" },
  entry: { order: "limit", price: 2 },
  stop: 1,
  targets: [{ price: 3, share: 1 }],
  invalidation: 1,
  expiry: 8e14,
};

/** Bodies that would be taken, by what their address ends in: what is wrong is made wrong one place at a time. */
const BODIES: [RegExp, unknown][] = [
  [/steps$/, { steps: [{ id: ID, step: "set", version: 0, mark }] }],
  [/scenarios$/, { version: 0, step: "save", scenario, writtenAt: 0 }],
  [/layout$/, { panes: [{ market: "tin", rung: "P1D" }], shown: { without: [], higher: true, dead: true } }],
  [/say$/, { list: "", steps: [{ step: "look", market: "tin", rung: "P1D", at: NOW }] }],
  [/horizons$/, { long: ["P1W"], medium: ["P1D"], short: ["PT1H"] }],
  [/set$/, { terms: { on: "reach", at: { bottom: 1, top: 2, name: "a", leave: 0 }, again: false, note: "" } }],
  [/finding$/, { set: "", params: { k: 2 } }],
  [
    /save$/,
    {
      version: 1,
      ...plainDraft("T", "B", [
        { market: "tin", rung: "P1D", scenarios: [ID], counts: { degrees: 1, alternates: true } },
      ]),
    },
  ],
  [
    /setups$/,
    { market: "tin", rung: "P1D", what: "passed", reason: "a", direction: "long", entry: 2, stop: 1, target: 3 },
  ],
  [/news$/, { upTo: 1 }],
  [/feed$/, { speed: 0 }],
];

const FORMS: [RegExp, Record<string, unknown>][] = [
  [/lists$/, { step: "save", list: { id: "", name: "L", markets: ["tin"], rare: false } }],
  [
    /rungs$/,
    {
      step: "save",
      set: { id: "", version: 0, name: "S", rungs: [{ rung: "P1D", role: "trade" }], walk: "down", chosen: false },
    },
  ],
  [/evening$/, { evening: { remarks: [{ market: "tin", verdict: "watch", remark: "" }] } }],
  [
    /events$/,
    {
      step: "save",
      event: {
        id: "",
        kind: "release",
        title: "E",
        at: NOW,
        allDay: false,
        impact: 1,
        markets: [],
        currencies: [],
        region: "",
        sector: "",
      },
    },
  ],
  [
    /derive$/,
    {
      market: {
        name: "D",
        form: "ratio",
        legs: [
          { market: "tin", units: 1 },
          { market: "lead", units: -1 },
        ],
        scale: 1,
        tick: 0.01,
        decimals: 2,
        hoursOf: "",
      },
    },
  ],
  [
    /library\/[^/]+$/,
    {
      market: {
        name: "Tin",
        kind: "commodity",
        tick: 0.01,
        decimals: 2,
        pip: 0.01,
        pipName: "point",
        zone: "UTC",
        sessions: [session],
        holidays: ["2026-01-01"],
        halfDays: [],
      },
    },
  ],
  [
    /import$/,
    {
      upload: ID,
      market: "",
      name: "M",
      kind: "other",
      base: "P1D",
      zone: "UTC",
      tick: "1",
      decimals: "2",
      badRows: "refuse",
      differing: "ask",
      order: "",
    },
  ],
  [/sign-in$/, { email: "a@b.example", password: "x" }],
  [/chosen$/, { set: "" }],
];

/** Requests without end, the same for a seed: every address, method, kind of body and extreme in turn. */
export function* wildRequests(seed: string): Generator<Wild> {
  const random = seeded(seed);
  const below = (count: number) => Math.floor(random.next() * count);
  const one = <T>(list: readonly T[]): T => list[below(list.length)];
  const all = addresses().filter((address) => !LEFT.has(address));
  const values: Record<string, () => string> = {
    market: () => one([...MARKETS, "tin-less-lead", ...WORDS]),
    rung: () => one(["P1D", "PT1M", "P1W", "P10Y", "PT45M", ...WORDS]),
    number: () => one(["1", "2", "0", "999999999", ...WORDS]),
    section: () => one(["0.png", "0.svg", "9.png", "0.exe", "0", ...WORDS]),
    draft: () => one([ID, ...WORDS]),
    import: () => one([ID, ...WORDS]),
  };
  const anything = (depth = 0): unknown => {
    const kind = below(depth > 3 ? 5 : 8);
    if (kind === 0) return one(NUMBERS);
    if (kind === 1) return one(TEXTS);
    if (kind === 2) return one([null, true, false]);
    if (kind === 3) return one(WORDS);
    if (kind === 4) return one([ID, "tin", NOW]);
    if (kind === 5) return Array.from({ length: one([0, 1, 3, 40]) }, () => anything(depth + 2));
    if (kind === 6) return JSON.parse(`${"[".repeat(40)}${"]".repeat(40)}`) as unknown;
    return Object.fromEntries(
      Array.from({ length: below(4) }, () => [one([...WORDS.slice(0, 8), ...QUERY]), anything(depth + 1)]),
    );
  };
  /** The same value with one or two of its places spoilt. */
  const spoil = (value: unknown): unknown => {
    if (random.next() < 0.12 || typeof value !== "object" || value === null)
      return random.next() < 0.7 ? anything() : value;
    if (Array.isArray(value)) {
      if (random.next() < 0.1) return Array.from({ length: one([0, 2, 600]) }, () => value[0] as unknown);
      return value.map((part, i) => (i === 0 ? spoil(part) : (part as unknown)));
    }
    const names = Object.keys(value);
    const chosen = one(names);
    const out: Record<string, unknown> = {
      ...(value as object),
      [chosen]: spoil((value as Record<string, unknown>)[chosen]),
    };
    if (random.next() < 0.08) out[one(["__proto__", "constructor", "more"])] = anything();
    if (random.next() < 0.08) delete out[one(names)];
    return out;
  };
  const fresh = (text: string) => text.replaceAll(ID, random.next() < 0.5 ? ID : uuid(random.next));
  for (;;) {
    const address = one(all);
    const filled = address
      .replace(/:(\w+)/g, (_, name: string) => encodeURIComponent((values[name] ?? (() => one(WORDS)))()))
      .replace("*", encodeURIComponent(one(WORDS)));
    const wild = () => String(one([one(WORDS), one(NUMBERS), one(MARKETS), "png"]));
    const query = Array.from(
      { length: below(4) },
      () => `${one(QUERY)}=${encodeURIComponent(wild().toWellFormed())}`,
    ).join("&");
    const path = `${filled}${random.next() < 0.15 ? ".data" : ""}${query ? `?${query}` : ""}`;
    if (random.next() < 0.45) {
      yield { method: one(["GET", "GET", "GET", "HEAD"]), path, type: undefined, body: undefined };
      continue;
    }
    const method = random.next() < 0.95 ? "POST" : one(["PUT", "DELETE", "PATCH", "OPTIONS"]);
    const json = BODIES.find(([ending]) => ending.test(filled))?.[1];
    const form = FORMS.find(([ending]) => ending.test(filled))?.[1];
    const kind = random.next();
    if (kind < 0.1)
      yield {
        method,
        path,
        type: one([
          "application/json",
          "text/plain",
          "multipart/form-data",
          "multipart/form-data; boundary=x",
          "application/octet-stream",
          "application/json; charset=utf-16",
          "x",
        ]),
        body: new Uint8Array(Array.from({ length: below(200) }, () => below(256))),
      };
    else if (json !== undefined || kind < 0.3)
      yield {
        method,
        path,
        type: one(["application/json", "application/json", "application/json; charset=utf-8", "text/plain"]),
        body: fresh(JSON.stringify(json === undefined ? anything() : spoil(json)) ?? ""),
      };
    else {
      const fields = Object.entries((form ?? { step: anything(), id: anything() }) as object).map(([name, value]) => [
        name,
        typeof value === "object"
          ? fresh(JSON.stringify(spoil(value)) ?? "")
          : random.next() < 0.2
            ? (JSON.stringify(anything()) ?? "")
            : String(value),
      ]);
      yield {
        method,
        path,
        type: "application/x-www-form-urlencoded",
        body: new URLSearchParams(fields.map(([name, value]) => [name, value.toWellFormed()])).toString(),
      };
    }
  }
}

function uuid(next: () => number): string {
  const digits = Array.from({ length: 32 }, () => Math.floor(next() * 16).toString(16)).join("");
  const [a, b, c, d] = [digits.slice(0, 8), digits.slice(8, 12), digits.slice(13, 16), digits.slice(17, 20)];
  return `${a}-${b}-4${c}-8${d}-${digits.slice(20)}`;
}
