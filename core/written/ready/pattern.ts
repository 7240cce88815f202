import type { ReadySentence } from "#core/written/ready";
import { onTick, termsWith, type ReadyGround } from "#core/written/ready/ground";
import type { PatternGround } from "#core/written/ready/patternGround";
import type { WrittenTerms } from "#core/written/written";

/** Bars within which price comes back to the line it left (definition our own). */
const RETEST = 20;
/** The stop stands a tick beyond the pattern's own. */
const BEYOND = -1;

/** The terms of one way out of a pattern: at the close that breaks it, or at the one that tests the break. */
function wayOut(
  { name, wrong }: PatternGround,
  way: "up" | "down",
  ground: ReadyGround,
  isRetest: boolean,
): Omit<WrittenTerms, "expires"> {
  const event = (what: string) => ({ on: "pattern", pattern: name, way, event: what, rung: ground.rung });
  const broken = { when: event("confirmed") };
  return termsWith(
    way === "up" ? "long" : "short",
    {
      if: isRetest ? [broken, { when: event("retested"), within: RETEST }] : [broken],
      wrong: onTick(wrong[way], ground),
    },
    {
      entry: { order: "market" },
      stop: { bind: "patternStop", step: 1, ticks: BEYOND },
      targets: [{ price: { bind: "patternTarget", step: 1 }, share: 1 }],
    },
  );
}

function sentence(name: string, title: string, says: string, isRetest: boolean): ReadySentence {
  return {
    ...{ name, title, says },
    fill(ground) {
      const [nearest] = ground.patterns ?? [];
      if (!nearest) return "No pattern on this rung waits for its break: take one that is offered, or place one.";
      const [first, second] = nearest.ways;
      const terms = wayOut(nearest, first, ground, isRetest);
      return {
        title: `Out of the ${nearest.title.toLowerCase()}${isRetest ? ", tested" : ""}`,
        terms: second ? { ...terms, unless: [unlessLeft(nearest, second, ground)] } : terms,
        ...(second
          ? { other: { ...wayOut(nearest, second, ground, isRetest), unless: [unlessLeft(nearest, first, ground)] } }
          : {}),
      };
    },
  };
}

/** One that may be left either way is a pair: the first way out ends the other. */
const unlessLeft = ({ name }: PatternGround, way: "up" | "down", { rung }: ReadyGround) => ({
  ...{ on: "pattern", pattern: name, way, event: "confirmed", rung },
});

export const patternBreak = sentence(
  "patternBreak",
  "Pattern: its break",
  "confirmed by a close, to its target",
  false,
);
export const patternRetest = sentence("patternRetest", "Pattern: break and retest", "confirmed, then tested", true);
