import { describe, expect, it } from "vitest";
import { plainDraft, type Block } from "#core/edition/blocks";
import { checkEdition, typedByHand, withNumbersPutIn, type EditionFacts } from "#core/edition/checks";
import { PARTS } from "#core/edition/parts";
import { wordsOf, type Words } from "#core/edition/words";
import { aWritten } from "#core/testing/written";

const tin = { id: "tin", name: "Sable tin" };
const section = { market: "tin", rung: "P1D", scenarios: ["a"] };
const view = (horizon: "long" | "medium" | "short", direction: "up" | "down") => ({ horizon, direction, rungs: [] });
const chip = { market: "tin", of: "mark" as const, id: "m", part: "at last high", text: "454.70" };

const flat = { levels: [], close: 440 };

function checks(
  words: string | Words,
  more: Partial<EditionFacts> = {},
  market: Partial<Extract<Block, { kind: "market" }>> = {},
) {
  const { blocks } = plainDraft("T", "", [{ ...section, ...market }]);
  const said = typeof words === "string" ? wordsOf(words) : words;
  return checkEdition({
    blocks: [{ kind: "words", id: "w", words: said }, ...blocks.slice(1)],
    title: "T",
    plans: [],
    sections: [{ market: tin, scenarios: [], rewards: [], horizons: [], ...flat }],
    chips: [{ ...chip, name: "Sable tin: Day level, last high" }],
    markets: [tin, { id: "oil", name: "Harbour oil" }],
    soon: [],
    ...more,
  });
}
const calling = (more: Partial<EditionFacts["sections"][number]>) => ({
  sections: [{ market: tin, scenarios: [aWritten()], rewards: [1.5], horizons: [], ...flat, ...more }],
});

describe("before an edition goes out", () => {
  it("nothing is said of one that has nothing against it", () => {
    expect(checks("Tin holds.", calling({ horizons: [view("long", "up"), view("short", "up")] }))).toEqual([]);
  });
  it("a call against the view is told with the horizons it is against", () => {
    expect(
      checks("", calling({ horizons: [view("long", "down"), view("medium", "up"), view("short", "down")] })),
    ).toEqual(["Sable tin, A: a long against the long and short view, which is down."]);
  });
  it("what pays less than one to one, and what was waived, is told with its number", () => {
    const waived = { ...aWritten(), waived: { reward: "small size" } };
    expect(checks("", calling({ scenarios: [waived], rewards: [0.8] }))).toEqual([
      "Sable tin, A: pays 0.80 : 1.",
      "Sable tin, A: 1 point of its checklist waived.",
    ]);
  });
  it("a price that was typed and is another now is told once, in words that do not change with the next bar", () => {
    const at = (close: string) => ({
      sections: [
        {
          market: tin,
          scenarios: [],
          rewards: [],
          horizons: [],
          levels: [],
          close: Number(close),
          closes: ["440.85", close],
        },
      ],
      chips: [{ ...chip, text: "438.00", name: "a level" }],
    });
    const said = '440.85 is typed as the price of Sable tin, which is another now: put in with "/" it stays true.';
    const stale = (words: string, close = "436.65") =>
      checks(words, at(close)).filter((one) => one.includes("typed as"));
    expect(stale("Price is 440.85.")).toEqual([said]);
    expect(stale("Tin at 440.85 holds.", "435.90")).toEqual([said]);
    expect(stale("Price is 440.85.", "440.85")).toEqual([]);
    // A level of the desk, a year, a price far away and a target are none.
    expect(stale("Price is 438.00. In 2026 it was 12.50; price may see 450.00.")).toEqual([
      '450.00 is typed as the price of Sable tin, which is another now: put in with "/" it stays true.',
    ]);
  });
  it("an empty table and a title that is cut are told", () => {
    expect(checks("Tin holds.", { ...calling({}), empty: ["The ranking"], title: "T".repeat(95) })).toEqual([
      "The ranking has nothing in it.",
      "The title has 95 letters; lists of mails show about 70 of them.",
    ]);
  });
  it("a step that was said aloud and rewritten since is told", () => {
    const voice = { sha256: "0".repeat(64), seconds: 2, said: "The day is up." };
    const walk = (text: string): Block => ({
      kind: "walk",
      id: "k",
      market: "tin",
      steps: [{ rung: "P1D", text, voice }],
    });
    expect(checks("", { ...calling({}), blocks: [walk("The day is up.")] })).toEqual([]);
    expect(checks("", { ...calling({}), blocks: [walk("The day is down.")] })).toEqual([
      "Sable tin, step 1: its sentence is not the one said aloud.",
    ]);
  });
  it("a market without a call wants a word why", () => {
    expect(checks("", {}, { scenarios: [] })).toEqual(["Sable tin: no call, and no word why there is none."]);
    expect(checks("", {}, { scenarios: [], words: wordsOf("In the middle of its range.") })).toEqual([]);
  });
  it("what was typed by hand is put in as the desk's, and the words around it stay", () => {
    const named = [{ ...chip, name: "Sable tin: Day level, last high" }];
    const { blocks } = plainDraft("T", "Up to 454.70, then 454.7 or 1454.70.", [
      { ...section, words: wordsOf("454.70") },
    ]);
    expect(typedByHand(blocks, named)).toBe(1);
    const put = withNumbersPutIn(blocks, named);
    expect(put[0]).toMatchObject({
      words: {
        content: [
          {
            content: [
              { type: "text", text: "Up to " },
              { type: "chip", attrs: chip },
              { type: "text", text: ", then 454.7 or 1454.70." },
            ],
          },
        ],
      },
    });
    expect(put[1]).toMatchObject({ words: { content: [{ content: [{ type: "chip", attrs: chip }] }] } });
    expect(typedByHand(put, named)).toBe(0);
    expect(withNumbersPutIn(put, named)).toEqual(put);
  });
  it("a price that was typed by hand is known for what it is; years, counts and parts of numbers are not", () => {
    expect(checks("Up to 454.70 until 2026, 3 times.")).toEqual([
      '454.70 is typed by hand, and is Sable tin: Day level, last high: put in with "/" it stays true.',
    ]);
    expect(checks("1454.70 and 454.705 and 454.70.1 are other numbers.")).toEqual([]);
  });
  it("a number of the desk whose mark is gone says so; one that is there is not taken for typed", () => {
    const holding = (id: string): Words => ({
      type: "doc",
      content: [{ type: "paragraph", content: [{ type: "chip", attrs: { ...chip, id } }] }],
    });
    expect(checks(holding("m"))).toEqual([]);
    expect(checks(holding("x"))).toEqual([
      "454.70: what it follows is gone from the desk; it says what that last said.",
    ]);
  });
  it("a level on the wrong side of price is told, one on its own side is not", () => {
    const levels = [
      { bottom: 450, top: 451, role: "support", label: "demand" },
      { bottom: 430, top: 431, role: "support", label: "base" },
      { bottom: 430, top: 439, role: "resistance", label: "lid" },
      { bottom: 430, top: 445, role: "resistance", label: "around" },
    ] as const;
    expect(checks("", calling({ levels }))).toEqual([
      "Sable tin: demand, a support, stands above price.",
      "Sable tin: lid, a resistance, stands below price.",
    ]);
  });
  it("a price that words or the title would tell to readers who are not shown it is named with their plan", () => {
    const stop = { ...chip, of: "scenario" as const, part: "stop", name: "Sable tin: A, stop", text: "432.40" };
    const plans = [
      { name: "Free", parts: ["words", "scenarios"] as const },
      { name: "Silent", parts: [] },
      { name: "Member", parts: PARTS },
    ];
    const told = (title: string, words: string) =>
      checks(words, { title, plans, chips: [stop] }).filter((text) => text.includes("would tell"));
    expect(told("T", "Out at 432.40.")).toEqual([
      "The words would tell 432.40 (Sable tin: A, stop) to Free, who are not shown it.",
    ]);
    expect(told("Tin above 432.40", "Words.")).toEqual([
      "The title would tell 432.40 (Sable tin: A, stop) to Free and Silent, who are not shown it.",
    ]);
    expect(told("T", "Out at 432.41.")).toEqual([]);
  });
  it("a market that is only spoken of, and what comes within the hour", () => {
    const soon = [{ market: "Sable tin", title: "Prices paid by households", minutes: 25 }];
    expect(checks("Harbour oil leads.", { soon })).toEqual([
      "Harbour oil is spoken of, and has neither picture nor levels here.",
      "Sable tin: Prices paid by households in 25 min.",
    ]);
  });
});
