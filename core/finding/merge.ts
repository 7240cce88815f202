import { byNearness } from "#core/finding/findings";
import { coincide, type Found, type Source } from "#core/finding/found";
import { lengthOf } from "#core/marks/shown";

/**
 * Findings of several rungs as facts: what has the same prices (within a tick), speaks the same way and rests on bars
 * that cover each other in time was found once, however many rungs show it. It keeps its highest rung and lists the
 * others as its lineage. A zone that meets one of a longer rung says whether that is of its own side. Nearest to
 * `price` first.
 */
export function mergeFindings(rungs: readonly (readonly Found[])[], tick: number, price: number): Found[] {
  const all = rungs.flat().sort((a, b) => lengthOf(b.rung) - lengthOf(a.rung) || a.key.localeCompare(b.key));
  const facts: Found[] = [];
  const byPrice = new Map<string, Found[]>();
  const cell = (price: number) => Math.round(price / tick);
  for (const found of all) {
    const [bottom, top] = [cell(found.bottom), cell(found.top)];
    // Prices a tick apart may fall into neighbouring cells.
    const beside = [-1, 0, 1].flatMap((step) => byPrice.get(`${found.kind} ${bottom + step}`) ?? []);
    const same = beside.find(
      (fact) => Math.abs(cell(fact.top) - top) <= 1 && sameWay(fact, found) && overlap(fact.sources, found.sources),
    );
    if (same) {
      same.lineage.push(...found.lineage);
      same.alsoKeys.push(found.key);
      continue;
    }
    const fact = { ...found, lineage: [...found.lineage], alsoKeys: [] };
    facts.push(fact);
    const key = `${found.kind} ${bottom}`;
    byPrice.set(key, [...(byPrice.get(key) ?? []), fact]);
  }
  const zones = facts.filter(({ kind }) => kind === "zone");
  return byNearness(
    facts.map((fact) => (fact.kind === "zone" ? withAgreement(fact, zones) : fact)),
    price,
  );
}

/** Resting orders of one side are the same whatever they are named after; anything else must be of one sort, too. */
function sameWay({ kind, props: a }: Found, { props: b }: Found): boolean {
  return a.side === b.side && (kind === "pool" || (a.direction === b.direction && a.of === b.of));
}

function overlap(a: readonly Source[], b: readonly Source[]): boolean {
  return a.some((one) => b.some((other) => coincide(one, other)));
}

/** What only the other rungs can say of a zone. */
function withAgreement(zone: Found, zones: readonly Found[]): Found {
  const higher = zones.filter(
    (other) => lengthOf(other.rung) > lengthOf(zone.rung) && other.bottom <= zone.top && other.top >= zone.bottom,
  );
  if (higher.length === 0) return zone;
  const agrees = higher.some(({ props }) => props.side === zone.props.side);
  return { ...zone, why: [...zone.why, agrees ? "a longer rung agrees" : "against a zone of a longer rung"] };
}
