import { isDeepStrictEqual } from "node:util";
import { Op, type Transaction } from "sequelize";
import { termsOfFrozen } from "#core/written/read";
import { WatcherRow } from "../database/models.ts";
import { frozenScenarios } from "../record/frozen.ts";
import { partsOf } from "../record/subject.ts";
import type { Frozen } from "./freeze.ts";
import type { FrozenSection } from "./section.ts";

/**
 * The same sections with every call that is called again, word for word, and is not over yet naming the edition it was
 * first called in: it is followed on from there, and does not begin anew.
 */
export async function carriedOn(frozen: readonly Frozen[], transaction: Transaction): Promise<Frozen[]> {
  const markets = [...new Set(frozen.map(({ section }) => section.market.id))];
  const open = await WatcherRow.findAll({
    where: { kind: "scenario", done: false, marketId: { [Op.in]: markets } },
    attributes: ["subject"],
    transaction,
    raw: true,
  });
  const under = open.map(({ subject }) => partsOf(subject)).sort((a, b) => b.edition - a.edition);
  const published = await frozenScenarios(
    under.map(({ edition }) => edition),
    transaction,
  );
  const calledIn = (scenario: FrozenSection["scenarios"][number]): number | undefined => {
    const terms = termsOfFrozen(scenario);
    return under.find(
      ({ edition, scenarioId }) =>
        scenarioId === scenario.id && isDeepStrictEqual(published.get(edition)?.get(scenarioId)?.terms, terms),
    )?.edition;
  };
  return frozen.map((one) => ({
    ...one,
    section: {
      ...one.section,
      scenarios: one.section.scenarios.map((scenario) => {
        const edition = calledIn(scenario);
        return edition === undefined ? scenario : { ...scenario, calledIn: edition };
      }),
    },
  }));
}
