import { describe, expect, it } from "vitest";
import { answeredCandles, answerText, atPlaces, atWaveEnds, candleTitle } from "#core/candles/answered";
import { days } from "#core/testing/openData";

const pin: [number, number, number, number] = [106, 110, 100, 109];

// Common practice, no source: a candle says something at a place alone, and the next close says whether it was heard.
describe("candles at a place", () => {
  it.each<[string, [number, number, number, number][], object]>([
    ["not answered yet", [pin], { name: "pin", way: "up" }],
    ["answered above", [pin, [109, 113, 108.5, 110.01]], { name: "pin", answer: "above" }],
    ["answered below", [pin, [108, 108.5, 97, 99.99]], { name: "pin", answer: "below" }],
    ["answered within", [pin, [109, 111, 108, 110]], { name: "pin", answer: "within" }],
  ])("a pin %s", (_, bars, expected) => {
    const [found] = answeredCandles(days(...bars), 0.01).filter(({ time }) => time === days(pin).time[0]);
    expect(found).toMatchObject(expected);
    expect("answer" in found).toBe("answer" in expected);
  });
  it("one a bar, what is made of more bars first, of the last five alone", () => {
    const quiet: [number, number, number, number] = [100, 104, 96, 102.5];
    expect(answeredCandles(days([102, 103, 99, 100], [99.5, 104, 98, 103]), 0.01)).toMatchObject([
      { name: "engulfing", way: "up" },
    ]);
    const late = [
      pin,
      quiet,
      [101, 105, 97, 103.5],
      [102, 106, 98, 104.5],
      [103, 107, 99, 105.5],
      [104, 108, 100, 106.5],
    ];
    expect(answeredCandles(days(...(late as [typeof pin])), 0.01).some(({ name }) => name === "pin")).toBe(false);
  });
  it("stand at an area their range reaches, ends included", () => {
    const [candle] = answeredCandles(days(pin), 0.01);
    expect(atPlaces([candle], [{ bottom: 90, top: 99.9 }])).toEqual([]);
    expect(atPlaces([candle], [{ bottom: 90, top: 100 }])).toHaveLength(1);
    expect(atPlaces([candle], [{ bottom: 110, top: 120 }])).toHaveLength(1);
  });
  it("stand at the end of a wave when it ended within their bars, not a bar before or after", () => {
    const bars = days([102, 103, 99, 100], [99.5, 104, 98, 103], [103, 104, 101.5, 103.2]);
    const engulfing = answeredCandles(bars, 0.01).filter(({ name }) => name === "engulfing");
    const ended = (time: number) => atWaveEnds(engulfing, [{ time, price: 98, label: "(iv)" }]).length;
    expect(engulfing).toHaveLength(1);
    const day = bars.time[1] - bars.time[0];
    expect([bars.time[0] - 1, bars.time[0], bars.time[1], bars.time[1] + day / 2].map(ended)).toEqual([0, 1, 1, 1]);
    expect(ended(bars.time[2])).toBe(0);
    // The last candle waits for the bar after it: an end of a shorter rung within its own day counts.
    const [last] = answeredCandles(days(pin), 0.01);
    expect(atWaveEnds([last], [{ time: last.time + day / 2, price: 100, label: "5" }])).toHaveLength(1);
  });
  it("are said in the trade's words", () => {
    expect([candleTitle({ name: "star", way: "up" }), candleTitle({ name: "star", way: "down" })]).toEqual([
      "Morning star",
      "Evening star",
    ]);
    expect([candleTitle({ name: "pin", way: "down" }), candleTitle({ name: "inside" })]).toEqual([
      "Pin down",
      "Inside bar",
    ]);
    expect(answerText({ answer: "above" })).toBe("the next bar closed above it");
    expect(answerText({})).toBe("not answered yet");
  });
});
