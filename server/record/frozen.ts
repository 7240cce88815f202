import { LRUCache } from "lru-cache";
import { Op, type Transaction } from "sequelize";
import { ConditionFault } from "#core/conditions/fields";
import type { WholeTerms } from "#core/scenarios/legs";
import type { Scenario } from "#core/scenarios/scenario";
import { termsOfFrozen } from "#core/written/read";
import type { Frozen } from "#core/written/written";
import { Edition, RecordEntry } from "../database/models.ts";
import { log } from "../log.ts";
import { digestOf } from "./digest.ts";
import { entrySha } from "./entry.ts";
import { entryOf } from "./file.ts";
import { isSigned, publicKeys } from "../signing.ts";
import { readFrozen } from "./frozenContent.ts";

/** A published scenario as it is followed: all of it is what was frozen. */
export interface FollowedScenario {
  id: string;
  title: string;
  terms: WholeTerms;
  /** The market it is on, and its name then. */
  market: { id: string; name: string };
  /** When it was published, by the market's clock. */
  since: number;
  /** The edition it is followed under, where it goes on with a call of before. */
  calledIn?: number;
}

/** Scenarios of editions by the digest of the text they were read from: the same text holds the same. */
const known = new LRUCache<string, ReadonlyMap<string, FollowedScenario>>({ max: 500 });

/**
 * The scenarios of some editions as they were frozen, by edition and id. An edition whose text is not the one that was
 * entered in the record, under a signature of ours, gives none: it is not followed, and that is said in the log.
 */
export async function frozenScenarios(
  editions: readonly number[],
  transaction?: Transaction,
): Promise<Map<number, ReadonlyMap<string, FollowedScenario>>> {
  const numbers = [...new Set(editions)];
  const out = new Map<number, ReadonlyMap<string, FollowedScenario>>();
  if (numbers.length === 0) return out;
  const entries = await RecordEntry.findAll({
    where: { kind: "edition", edition: { [Op.in]: numbers } },
    transaction,
    raw: true,
  });
  const keys = publicKeys();
  for (const entry of entries.map(entryOf)) {
    const { edition, digest, sha256: head, keyId, signature } = entry;
    const before = known.get(digest);
    if (before) {
      out.set(edition, before);
      continue;
    }
    const row = await Edition.findByPk(edition, { attributes: ["canonical"], transaction, raw: true });
    if (
      !row ||
      digestOf(row.canonical) !== digest ||
      entrySha(entry) !== head ||
      !isSigned(head, signature, keys[keyId])
    ) {
      log.error({ edition }, "an edition is not what was entered in the record: it is not followed");
      continue;
    }
    const { sections = [], marketTime = "" } = readFrozen(row.canonical);
    const since = Date.parse(marketTime);
    const published = sections.flatMap(({ market, scenarios: own = [] }) =>
      own.flatMap((one) =>
        followed(one, edition, { market: { id: market?.id ?? "", name: market?.name ?? "" }, since }),
      ),
    );
    const scenarios = new Map(published.map((one) => [one.id, one]));
    known.set(digest, scenarios);
    out.set(edition, scenarios);
  }
  return out;
}

function followed(
  published: Frozen | Scenario,
  edition: number,
  of: Pick<FollowedScenario, "market" | "since">,
): FollowedScenario[] {
  const { id, title } = published;
  const { calledIn } = published as { calledIn?: number };
  try {
    return [{ id, title, terms: termsOfFrozen(published), ...of, ...(calledIn === undefined ? {} : { calledIn }) }];
  } catch (error) {
    if (!(error instanceof ConditionFault)) throw error;
    log.error({ edition, scenario: id, why: error.message }, "a published scenario cannot be read: it is not followed");
    return [];
  }
}
