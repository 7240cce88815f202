import { useMemo } from "react";
import { count } from "#core/marks/count";
import type { CountState } from "#core/marks/count";
import type { Life, Mark } from "#core/marks/kind";
import { scenarioFromCount } from "#core/scenarios/fromCount";
import { subjectsOf, type Subject } from "#core/written/subject";
import type { ReadyGround } from "#core/written/ready/ground";
import { patternsWaiting } from "#core/written/ready/patternGround";
import { asCount } from "../counting/useCounts.ts";
import type { Work } from "../session/useWork.ts";

/** A mark with its life as the market's own chart follows it. */
export type LivedBy = (id: string) => { mark: Mark; life: Life } | undefined;

/** What a scenario can be made of: what stands on the charts, and what its rung shows. */
export interface Ground {
  lifeOf: LivedBy;
  subjects: readonly Subject[];
  ready: ReadyGround;
}

/** Subjects that are offered: the nearest. */
const MOST = 120;

export function useGround({ desk, marks, lives, machine, rung, rungSet, view }: Work): Ground {
  const { market } = desk;
  const { areas, findings } = machine;
  const series = view?.bars?.series;
  const close = series?.close.at(-1) ?? 0;
  const reading = findings?.rungs.find((one) => one.rung === rung);
  const atr = reading?.atr ?? 0;
  const lifeOf = useMemo((): LivedBy => {
    const byId = new Map(marks.map((mark) => [mark.id, mark]));
    return (id) => {
      const [mark, lived] = [byId.get(id), lives.get(id)];
      return mark && lived ? { mark, life: lived.life } : undefined;
    };
  }, [marks, lives]);
  const subjects = useMemo(
    () =>
      subjectsOf(
        marks.flatMap(({ id }) => lifeOf(id) ?? []),
        areas,
        close,
        market,
      ).slice(0, MOST),
    [marks, lifeOf, areas, close, market],
  );
  const ready = useMemo((): ReadyGround => {
    const week = findings?.rungs.find((one) => one.rung === "P1W");
    const counts = marks
      .flatMap((mark) => asCount(mark) ?? [])
      .filter((mark) => lifeOf(mark.id)?.life.dead === false)
      .sort((a, b) => Number(b.props.role === "preferred") - Number(a.props.role === "preferred"))
      .flatMap((mark) => {
        const asks = scenarioFromCount(mark, close, atr, areas);
        return asks ? [{ mark: mark.id, asks }] : [];
      });
    return {
      close,
      atr,
      tick: market.tick,
      rung,
      finer: finerThan(
        rung,
        rungSet.rungs.map((one) => one.rung),
      ),
      subjects,
      labels: reading?.labels ?? [],
      legs: reading?.legs ?? [],
      ...(week?.barBefore && week.lastBar ? { weeks: [week.barBefore, week.lastBar] as const } : {}),
      counts,
      patterns: patternsWaiting(
        marks.flatMap(({ id }) => lifeOf(id) ?? []),
        rung,
        close,
      ),
    };
  }, [marks, lifeOf, close, atr, areas, market.tick, rung, rungSet, subjects, reading, findings]);
  return { lifeOf, subjects, ready };
}

function finerThan(rung: string, rungs: readonly string[]): string {
  return rungs[rungs.indexOf(rung) + 1] ?? rung;
}

/** What became of the count a scenario rests on; "" while it lives, `undefined` where it rests on none. */
export function countDied(restsOn: string | undefined, lifeOf: LivedBy): string | undefined {
  if (!restsOn) return undefined;
  const lived = lifeOf(restsOn);
  if (lived?.mark.kind !== count.kind) return "The count it rests on is gone.";
  const died = (lived.life.state as Partial<CountState> | undefined)?.died?.find(({ at }) => at.length === 0);
  return died ? `The count it rests on died: ${died.statement}.` : "";
}
