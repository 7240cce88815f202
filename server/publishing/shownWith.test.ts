import { describe, expect, it } from "vitest";
import { EVENT_SEEN_WITH, eventSeen } from "#core/edition/eventParts";
import { PARTS, partsInOrder, type EditionPart } from "#core/edition/parts";
import type { Words } from "#core/edition/words";
import { markKinds } from "#core/marks/registry";
import { asInstant } from "#core/observe/instant";
import type { FollowUp, FollowUpName } from "#core/scenarios/events";
import { WHOLE, type Sight } from "../accounts/plans.ts";
import { asHtml } from "../readers/asHtml.ts";
import { asText } from "../readers/asText.ts";
import { wouldSee } from "../readers/seen.ts";
import { wordsBySight } from "../record/foundWords.ts";
import { cutLeaves, isLeafProven, provenLeaves, rootOfLeaves } from "../record/leaves.ts";
import type { EditionContent, FrozenBlock } from "./content.ts";
import { cutsOf, published } from "./cuts.ts";
import type { FrozenSection } from "./section.ts";
import type { Fields } from "./shownWith.ts";
import { MARK_SEEN_WITH } from "./sight.ts";

/** Numbers that stand once each, with the parts of a plan that show them: said here, and not read from the table. */
const TOLD = new Map<string, readonly EditionPart[]>();
function number(...parts: EditionPart[]): number {
  const value = 700_000 + TOLD.size;
  TOLD.set(String(value), parts);
  return value;
}
const text = (...parts: EditionPart[]) => `n${number(...parts)}`;

const chip = (of: "price" | "mark" | "scenario", part: string, ...parts: EditionPart[]) => ({
  type: "chip" as const,
  attrs: { market: "tin", of, id: "x", part, text: text(...parts) },
});
const words = (): Words => ({
  type: "doc",
  content: [
    {
      type: "paragraph",
      content: [
        { type: "text", text: text("words") },
        chip("price", "last", "words"),
        chip("mark", "at lid", "words", "levels"),
        chip("scenario", "stop", "words", "scenarios", "orders"),
        chip("scenario", "wrong", "words", "scenarios"),
      ],
    },
  ],
});

function section(): FrozenSection {
  const bar = { time: number("pictures"), open: 1, high: 2, low: 1, close: number("pictures"), volume: 0 };
  const level = (parts: EditionPart[], more: object) => ({
    ...{ bottom: number("levels", ...parts), top: number("levels", ...parts), role: "support" as const },
    ...{ label: "l", rung: "P1D", status: "live", distance: 0, ...more },
  });
  const mark = (kind: string, ...parts: EditionPart[]) => ({
    ...{ kind, rung: "P1D", anchors: [{ time: 0, price: number("pictures", ...parts) }] },
    props: { label: text("pictures", ...parts) },
  });
  const order = () => ({
    entry: { order: "limit", price: number("scenarios", "orders") },
    stop: number("scenarios", "orders"),
    targets: [{ price: number("scenarios", "orders"), share: 1 }],
    breakEven: { r: number("scenarios", "orders") },
  });
  const call = (orders: object) => ({
    ...{ format: 2 as const, id: "x", title: text("scenarios"), premise: text("scenarios") },
    ...{ rank: "favourite" as const, role: "preferred" as const, weight: number("scenarios") },
    terms: {
      direction: "long",
      while: [{ on: "close", side: "above", price: number("scenarios") }],
      if: [{ when: { on: "close", side: "above", price: number("scenarios") } }],
      unless: [{ on: "close", side: "below", price: number("scenarios") }],
      ...{ wrong: number("scenarios"), expires: "2030-01-01T00:00:00Z", leastReward: 1, cost: 0, through: 0 },
      ...orders,
    },
  });
  return {
    market: { id: "tin", name: text(), tick: 1, pip: 1, pipName: "tick", decimals: 0 },
    calendar: { zone: "UTC", sessions: [] },
    revision: number(),
    rung: "P1D",
    bars: [bar],
    marks: [mark("level", "levels"), mark("count", "counts"), mark("zone", "levels")],
    levels: [
      level([], {}),
      level(["counts"], { counted: true }),
      level(["counts"], { role: "kill" }),
      level(["orders"], { used: true }),
    ] as never,
    scenarios: [
      call({ ...order(), trail: { by: "structure", rung: "PT1H" } }),
      call({
        legs: [
          { if: [], ...order(), risk: 0.5 },
          { if: [], ...order(), risk: 0.5 },
        ],
      }),
    ],
    horizons: [{ horizon: text("words") as never, direction: "up", rungs: [], why: "" } as never],
    studies: [
      {
        ...{ study: "rsi", params: { period: number("words") }, height: 0.1, name: text("words") },
        ...{ says: text("words"), lines: [{ name: "value", unit: "hundred", values: [number("words"), null] }] },
      },
    ],
    pictures: {
      "wide words": { svg: text("pictures", "words") },
      "wide levels+orders": { svg: text("pictures", "levels", "orders"), png: text("pictures", "levels", "orders") },
      wide: { svg: text("pictures") },
    },
    picture: { svg: text(...PARTS.filter((part) => part !== "words")) },
  };
}

const BLOCKS: { [K in FrozenBlock["kind"]]: () => Extract<FrozenBlock, { kind: K }> } = {
  words: () => ({ kind: "words", words: words() }),
  market: () => ({
    kind: "market",
    section: section(),
    words: words(),
    changed: { since: number(), levels: [text("levels")], calls: [text("scenarios")] },
  }),
  walk: () => ({
    kind: "walk",
    market: text(),
    steps: [{ text: text("words"), section: section(), voice: { sha256: text("words"), seconds: 1 } }],
  }),
  calendar: () => ({ kind: "calendar", days: 1, lines: [{ at: 0, allDay: true, title: text(), impact: 1 }] }),
  recap: () => ({
    kind: "recap",
    lines: [
      {
        ...{ edition: number("scenarios"), title: text("scenarios"), market: "tin" },
        ...{ since: [text("scenarios", "orders")], stands: text("scenarios", "orders") },
      },
    ],
  }),
  ranking: () => ({
    kind: "ranking",
    lines: [
      {
        ...{ market: "tin", title: text("scenarios"), direction: "long", rank: "favourite", role: "preferred" },
        ...{ weight: number("scenarios"), reward: number("scenarios", "orders") },
      },
    ],
  }),
  board: () => ({ kind: "board", lines: [{ market: text("words"), views: [] }] }),
  counts: () => ({
    kind: "counts",
    lines: [
      {
        ...{ market: "tin", rung: "P1D", role: "preferred", weight: number("counts"), says: text("counts") },
        ends: text("counts"),
      },
    ],
  }),
  areas: () => {
    const line = (...parts: EditionPart[]) => ({
      ...{ market: "tin", band: text("levels", ...parts), distance: 0, weight: number("levels", ...parts) },
      ...{ rungs: [], reasons: [text("levels", ...parts)] },
    });
    return { kind: "areas", lines: [line(), { ...line("counts"), counted: true }] };
  },
  record: () => {
    const r = () => number("scenarios", "orders");
    const figures = { published: r(), open: r(), notEntered: r(), n: r(), hits: r(), share: [r(), r()] as never };
    return { kind: "record", figures };
  },
  question: () => ({ kind: "question", asked: text("words"), answer: text("words") }),
  risk: () => ({ kind: "risk", text: text() }),
};

const content: EditionContent = {
  ...{ number: number(), previous: text(), kind: "morning", publishedAt: "2030-01-01T00:00:00.000Z" },
  ...{ marketTime: "2030-01-01T00:00:00.000Z", closesAt: "2030-01-02T00:00:00.000Z", author: text() },
  ...{ publishedBy: text(), title: text(), corrects: { number: number(), how: "correction" } },
  blocks: Object.values(BLOCKS).map((block) => block()),
};

/** Every choice of parts a plan can have. */
const CHOICES = Array.from({ length: 2 ** PARTS.length }, (_, bits) =>
  partsInOrder(PARTS.filter((_one, i) => (bits >> i) & 1)),
);
const seeing = (parts: readonly EditionPart[]): Sight => ({ ...WHOLE, parts });
const numbersIn = (said: string) => new Set(said.match(/\b(?:n)?7\d{5}\b/g)?.map((one) => one.replace("n", "")));

describe("what a plan shows", () => {
  it("is, of every number in every kind of block and for every choice of parts, what the trade of parts says", () => {
    const leaves = cutLeaves(content, cutsOf(content));
    const root = rootOfLeaves(leaves);
    let [asked, found] = [0, 0];
    for (const parts of CHOICES) {
      const allowed = [...TOLD].filter(([, of]) => of.every((part) => parts.includes(part))).map(([one]) => one);
      const seen = wouldSee(content, seeing(parts));
      const ways: Record<string, string> = {
        content: JSON.stringify(seen),
        leaves: JSON.stringify(provenLeaves(leaves, parts).map(({ leaf }) => leaf.content)),
      };
      for (const [way, said] of Object.entries(ways))
        expect([...numbersIn(said)].sort(), `${way} of ${parts.join() || "nothing"}`).toEqual([...allowed].sort());
      for (const proven of provenLeaves(leaves, parts)) expect(isLeafProven(proven, root)).toBe(true);
      const words = [...wordsBySight(leaves)].filter(
        ([see]) => see === "all" || see.split("+").every((one) => parts.includes(one as never)),
      );
      const told = {
        text: asText(seen),
        html: asHtml(seen, () => undefined).text,
        search: words.map(([, one]) => one).join(" "),
      };
      for (const [way, said] of Object.entries(told))
        expect(
          [...numbersIn(said)].filter((one) => !allowed.includes(one)),
          `${way} of ${parts.join()}`,
        ).toEqual([]);
      asked += TOLD.size;
      found += allowed.length;
    }
    // The crawl says something: parts hide most of it from most plans.
    expect(TOLD.size).toBeGreaterThan(100);
    expect(found / asked).toBeLessThan(0.5);
  });

  it("is nothing that no table names: neither published, nor seen where it was published before there was one", () => {
    const stray = 799_999;
    const strange = structuredClone(content) as unknown as Record<string, unknown> & {
      blocks: Record<string, unknown>[];
    };
    strange.secret = stray;
    strange.blocks.push({ kind: "unheard", says: stray });
    for (const block of strange.blocks) {
      block.secret = stray;
      if (typeof block.section === "object") (block.section as Record<string, unknown>).secret = stray;
      if (Array.isArray(block.lines)) (block.lines as Record<string, unknown>[])[0].secret = stray;
    }
    const kept = published(strange as never);
    expect(JSON.stringify({ ...kept, blocks: kept.blocks.slice(0, -1) })).not.toContain(String(stray));
    // A kind of mark that nobody gave a part is drawn for nobody.
    const odd = { kind: "unheard", rung: "P1D", anchors: [{ time: 0, price: stray }], props: {} };
    for (const { section: own } of strange.blocks as { section?: { marks: unknown[] } }[]) own?.marks.push(odd);
    for (const parts of CHOICES)
      expect(JSON.stringify(wouldSee(strange as never, seeing(parts)))).not.toContain(String(stray));
  });

  it("has a rule for every field, or does not compile", () => {
    // @ts-expect-error -- a field without a rule
    const missing: Fields<{ one: number; other?: string }> = { one: {} };
    // @ts-expect-error -- an event without a part
    const events: Readonly<Record<FollowUpName, string>> = { step: "scenarios" };
    expect([missing, events]).toHaveLength(2);
  });

  it("names the part of every kind of mark there is", () => {
    expect(Object.keys(MARK_SEEN_WITH).sort()).toEqual(markKinds.map(({ kind }) => kind).sort());
  });
});

describe("an event", () => {
  const event = (name: FollowUpName): FollowUp => ({
    ...{ event: name, at: asInstant(0), knownAt: asInstant(1), price: 101, step: 1, target: 2, r: 3, leg: 1 },
    ...{ reason: "while", which: 1, field: "stop", ambiguous: true },
  });
  // Common practice, no source: where an order lay is told by its fill, its exits, and by why it was not taken.
  const OF_ORDERS = [
    "entered",
    "target",
    "breakEven",
    "trailed",
    "stopped",
    "completed",
    "missed",
    "passed",
    "cancelled",
  ];

  it.each(Object.keys(EVENT_SEEN_WITH) as FollowUpName[])("%s tells no price of an order without that part", (name) => {
    const told = eventSeen(event(name), ["words", "levels", "counts", "scenarios", "pictures"]);
    if (OF_ORDERS.includes(name)) expect(told).toBeUndefined();
    else expect(told).toEqual({ event: name, at: 0, knownAt: 1, price: 101, step: 1, leg: 1, ambiguous: true });
    expect(eventSeen(event(name), ["words", "levels", "counts", "orders", "pictures"])).toBeUndefined();
    expect(eventSeen(event(name), [...PARTS])).toEqual(event(name));
  });
});
