import { describe, expect, it } from "vitest";
import type { Mark } from "#core/marks/kind";
import { days } from "#core/testing/openData";
import { calendar, market } from "#core/testing/marks";
import type { PaneView } from "../charts/Pane.tsx";
import type { LoadedBars } from "../charts/useBars.ts";
import { freshText, placedMark, twinOf } from "./workspaceMarks.ts";

const quiet = Array.from({ length: 20 }, (): [number, number, number, number] => [100, 104, 100, 102]);
/** A base at 100 to 101.5 that price left upwards, and the bars after it. */
const after = (...rows: [number, number, number, number][]) =>
  ({ series: days(...quiet, [101, 101.5, 100, 100.5], [100.5, 109, 100.5, 109], ...rows) }) as LoadedBars;
const view = { desk: { market }, rung: "P1D", calendar } as unknown as PaneView;
const click = (bars: LoadedBars) => [{ time: bars.series.time[20], price: 100.2 }];
const placed = (bars: LoadedBars, said?: Record<string, unknown>) => placedMark("zone", click(bars), view, bars, said);

describe("a zone that is placed by hand", () => {
  it("is what its candles say while that holds", () => {
    const bars = after([109, 110, 108, 109]);
    expect(placed(bars).props.side).toBe("demand");
    expect(freshText(placed(bars), view, bars)).toBeUndefined();
  });
  it("is the other one where it would be over at once", () => {
    // Price fell through it and stays below: what it was bought from is sold to.
    const bars = after([109, 109, 94, 95], [95, 96, 92, 93], [93, 94, 91, 92]);
    expect(placed(bars).props.side).toBe("supply");
    expect(freshText(placed(bars), view, bars)).toBeUndefined();
  });
  it("is what the analyst says, however its candles are read, and is told where it is over", () => {
    const bars = after([109, 109, 94, 95], [95, 96, 92, 93], [93, 94, 91, 92]);
    expect(placed(bars, { side: "supply" }).props.side).toBe("supply");
    const demand = placed(bars, { side: "demand" });
    expect(demand.props.side).toBe("demand");
    expect(freshText(demand, view, bars)).toMatch(
      /^Supply or demand zone: broken.* It stands in the list while it is chosen\.$/,
    );
  });
});

describe("a mark that stands there already", () => {
  const bars = after([109, 110, 108, 109]);
  const one = placed(bars);
  it("is found, whoever placed it", () => {
    const again: Mark = { ...one, id: "other", note: "a remark", version: 3 };
    expect(twinOf(placed(bars), [again])).toBe(again);
  });
  it("is none on another rung, at another price, of another kind, or while it is hidden", () => {
    const others: Partial<Mark>[] = [
      { rung: "P1W" },
      { kind: "level" },
      { hidden: true },
      { anchors: one.anchors.map((anchor, i) => (i === 0 ? { ...anchor, price: anchor.price + 0.01 } : anchor)) },
      { props: { ...one.props, side: "supply" } },
    ];
    for (const change of others) expect(twinOf(placed(bars), [{ ...one, ...change }])).toBeUndefined();
  });
});
