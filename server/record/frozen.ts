import { LRUCache } from "lru-cache";
import { Op, type Transaction } from "sequelize";
import type { Scenario } from "#core/scenarios/scenario";
import { Edition, RecordEntry } from "../database/models.ts";
import { log } from "../log.ts";
import { sha256 } from "./canonical.ts";
import { entrySha } from "./entry.ts";
import { entryOf } from "./file.ts";
import { isSigned, publicKeys } from "./keys.ts";
import { readFrozen } from "./verify.ts";

/** Scenarios of editions by the digest of the text they were read from: the same text holds the same. */
const known = new LRUCache<string, ReadonlyMap<string, Scenario>>({ max: 500 });

/**
 * The scenarios of some editions as they were frozen, by edition and id. An edition whose text is not the one that was
 * entered in the record, under a signature of ours, gives none: it is not followed, and that is said in the log.
 */
export async function frozenScenarios(
  editions: readonly number[],
  transaction?: Transaction,
): Promise<Map<number, ReadonlyMap<string, Scenario>>> {
  const numbers = [...new Set(editions)];
  const out = new Map<number, ReadonlyMap<string, Scenario>>();
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
      sha256(row.canonical) !== digest ||
      entrySha(entry) !== head ||
      !isSigned(head, signature, keys[keyId])
    ) {
      log.error({ edition }, "an edition is not what was entered in the record: it is not followed");
      continue;
    }
    const sections = readFrozen(row.canonical).sections ?? [];
    const scenarios = new Map(
      sections.flatMap(({ scenarios: own = [] }) => (own as Scenario[]).map((one) => [one.id, one])),
    );
    known.set(digest, scenarios);
    out.set(edition, scenarios);
  }
  return out;
}
