/** What ties a market to news, or news to markets. */
export interface Ties {
  currencies: string[];
  /** Regions and sectors; empty where it has none. */
  region: string;
  sector: string;
}

export const NO_TIES: Ties = { currencies: [], region: "", sector: "" };

const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();

/**
 * A market's own ties together with those of the markets it is made of: a cross is touched by the currency it is priced
 * through, too.
 */
export function allTies(ties: readonly Ties[]): Ties[] {
  return ties.filter(({ currencies, region, sector }) => currencies.length > 0 || region !== "" || sector !== "");
}

/** Why news touch a market, in a word or two; `undefined` when they do not. */
export function touches(
  news: Ties & { markets?: readonly string[] },
  market: { id: string; ties: readonly Ties[] },
): string | undefined {
  if (news.markets?.includes(market.id)) return "named";
  for (const { currencies } of market.ties) {
    const shared = news.currencies.find((one) => currencies.some((own) => same(own, one)));
    if (shared !== undefined) return shared;
  }
  for (const { region, sector } of market.ties) {
    if (news.sector !== "" && same(news.sector, sector)) return sector;
    // News of a sector alone are not news of its whole region.
    if (news.sector === "" && news.region !== "" && same(news.region, region)) return region;
  }
  return undefined;
}
