import { randomUUID } from "node:crypto";
import { describe, expect, it } from "vitest";
import type { Mark } from "#core/marks/kind";
import { aMarket, anAnalyst, failureOf, withTables } from "../testing.ts";
import { importMarks, marksAsCsv, marksAsJson } from "./markFile.ts";
import { applySteps, marksOf } from "./marks.ts";

withTables();

const DAY = 86_400_000;
const mark = (change: Partial<Mark> = {}) => ({
  id: randomUUID(),
  kind: "level",
  rung: "P1D",
  anchors: [{ time: 19_000 * DAY, price: 10.25 }],
  props: { label: "" },
  note: "",
  ...change,
});

async function marked() {
  const [{ id: author }, market] = [await anAnalyst(), await aMarket()];
  const marks = [
    mark({ note: '=HYPERLINK("http://x";"y")', props: { label: '+1, "two"\nlines' } }),
    mark({
      kind: "count",
      rung: "PT4H",
      anchors: [10, 12, 11].map((price, i) => ({ time: i * DAY + 3_600_000, price })),
      props: { degree: "Minor", scale: "log" },
    }),
    mark({
      kind: "retracement",
      anchors: [
        { time: DAY, price: 1e-8 },
        { time: 2 * DAY, price: 1e9 },
      ],
      props: { ratios: [0.382, 0.5] },
    }),
  ];
  await applySteps(
    market.id,
    marks.map((one) => ({ id: randomUUID(), step: "set", version: 0, mark: one })),
    author,
  );
  return { author, market: market.id };
}
const contents = async (market: string) =>
  (await marksOf(market)).map(({ id, kind, rung, anchors, props, note }) => ({ id, kind, rung, anchors, props, note }));

describe.each([
  ["JSON", marksAsJson],
  ["CSV", marksAsCsv],
] as const)("marks as %s", (_name, write) => {
  it("come back identical after they were removed, and change nothing where they still stand", async () => {
    const { author, market } = await marked();
    const before = await contents(market);
    const file = await write(market);
    expect(await importMarks(market, file, author)).toEqual({ added: 0, same: 3, differing: 0 });
    const gone = (await marksOf(market)).map(({ id, kind, rung, anchors, props, note, version }) => ({
      id: randomUUID(),
      step: "remove" as const,
      version,
      mark: { id, kind, rung, anchors, props, note },
    }));
    await applySteps(market, gone, author);
    expect(await importMarks(market, file, author)).toEqual({ added: 3, same: 0, differing: 0 });
    expect(await contents(market)).toEqual(before);
  });
  it("go to another market under names of their own", async () => {
    const { author, market } = await marked();
    const { id: other } = await aMarket();
    expect(await importMarks(other, await write(market), author)).toMatchObject({ added: 3 });
    const strip = (list: Awaited<ReturnType<typeof contents>>) =>
      list.map(({ kind, anchors, props, note }) => JSON.stringify([kind, anchors, props, note])).sort();
    expect(strip(await contents(other))).toEqual(strip(await contents(market)));
  });
});

describe("a file of marks", () => {
  it("holds no live formula when a spreadsheet opens it", async () => {
    const { market } = await marked();
    for (const cell of (await marksAsCsv(market)).split(/[\n,]/)) expect(cell).not.toMatch(/^"?[=+@]/);
  });
  it("leaves a mark alone that stands here otherwise", async () => {
    const { author, market } = await marked();
    const file = await marksAsJson(market);
    const [one] = await marksOf(market);
    await applySteps(
      market,
      [{ id: randomUUID(), step: "set", version: 1, mark: { ...mark(one), note: "mine" } }],
      author,
    );
    expect(await importMarks(market, file, author)).toEqual({ added: 0, same: 2, differing: 1 });
    expect((await marksOf(market)).filter(({ note }) => note === "mine")).toHaveLength(1);
  });
  it.each([
    ["no JSON", "{", /not JSON/],
    ["another format", '{"format":"x","marks":[]}', /no file of marks/],
    ["no header", "a,b\n1,2\n", /header/],
    [
      "props that are none",
      `id,kind,rung,note,props,time 1,price 1\n${randomUUID()},level,P1D,,{,2024-01-01,1\n`,
      /Line 2/,
    ],
    [
      "an unknown kind",
      JSON.stringify({ format: "even-compass-marks-1", marks: [mark({ kind: "comet" })] }),
      /Mark 1: .*comet/,
    ],
    [
      "a price that is none",
      `id,kind,rung,note,props,time 1,price 1\n${randomUUID()},level,P1D,,{},2024-01-01,ten\n`,
      /Mark 1/,
    ],
    [
      "a script for an id",
      JSON.stringify({ format: "even-compass-marks-1", marks: [mark({ id: "<script>" })] }),
      /Mark 1, id/,
    ],
  ])("with %s is refused whole, in words", async (_name, file, words) => {
    const { author, market } = await marked();
    const before = await contents(market);
    const failure = await failureOf(importMarks(market, file, author));
    expect(failure.sentence).toMatch(words);
    expect(failure.details).toMatchObject({ kept: "Nothing was stored." });
    expect(await contents(market)).toEqual(before);
  });
});
