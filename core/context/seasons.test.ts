import { describe, expect, it } from "vitest";
import { seasonality, type Season } from "#core/context/seasonality";
import { keyText, returnsBy, risesText, seasonMeanText, seasonVerdict } from "#core/context/seasons";
import { days } from "#core/testing/openData";

const season = (other: Partial<Season>): Season => ({
  ...{ key: 1, n: 40, mean: 0.02, median: 0.01, rises: 0.6, deviation: 0.05, error: 0.01, p: 0.001, adjusted: 0.012 },
  ...other,
});

describe("returns by season", () => {
  it("are of each close against the one before, under the key of the later", () => {
    const bars = days([1, 1, 1, 100], [1, 1, 1, 110], [1, 1, 1, 99]);
    const returns = returnsBy(bars, "weekday", "UTC");
    expect(returns.map(({ value }) => Math.round(value * 1e6) / 1e6)).toEqual([0.1, -0.1]);
    expect(returns.map(({ key }) => key)).toEqual([1, 2].map((i) => new Date(bars.time[i]).getUTCDay() || 7));
    expect(returnsBy(days(), "month", "UTC")).toEqual([]);
  });
  it("are told against chance with enough cases only, and only where the adjusted chance is rare", () => {
    expect(seasonVerdict(season({}), 0)).toBe("higher");
    expect(seasonVerdict(season({}), 0.03)).toBe("lower");
    expect(seasonVerdict(season({ adjusted: 0.05 }), 0)).toBe("chance");
    expect(seasonVerdict(season({ n: 19 }), 0)).toBe("few");
    expect(seasonVerdict(season({ adjusted: undefined }), 0)).toBe("few");
  });
  it("planted on Mondays are found there, and no other day is higher", () => {
    const returns = Array.from({ length: 1000 }, (_, i) => {
      const key = 1 + (i % 5);
      return { key, value: (key === 1 ? 0.004 : 0) + 0.01 * Math.sin(12.9898 * (i + 1) ** 1.3) };
    });
    const mean = returns.reduce((sum, { value }) => sum + value, 0) / returns.length;
    const [monday, ...others] = seasonality(returns).map((one) => seasonVerdict(one, mean));
    expect(monday).toBe("higher");
    expect(others).not.toContain("higher");
  });
  it("are said with the calendar's words, a mean with its interval", () => {
    const said = [keyText("month", 12), keyText("weekday", 1), keyText("week", 53), keyText("dayOfMonth", 3)];
    expect([...said, keyText("hour", 23)]).toEqual(["December", "Monday", "week 53", "day 3", "23:00 to 00:00"]);
    expect(seasonMeanText(season({}))).toBe("+2.00 % (+0.04 to +3.96)");
    expect(seasonMeanText(season({ error: undefined }))).toBe("+2.00 %");
    expect(risesText(season({}))).toBe("60 %");
  });
});
