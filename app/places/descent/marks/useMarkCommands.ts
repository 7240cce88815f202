import { bearingsOf, type BearingProps, type Direction } from "#core/marks/bearing";
import { equivalentAnchors, type CopyOf } from "#core/marks/equivalent";
import type { Mark } from "#core/marks/kind";
import { countText } from "#core/marks/wording";
import { toTick } from "#core/series/tick";
import type { MenuChoice } from "../charts/ChartMenu.tsx";
import { useFeature } from "../session/commandRegistry.ts";
import type { DescentSession } from "../session/descentSession.ts";
import type { MarketDesk } from "./desks.ts";
import type { MarkStore } from "./markStore.ts";
import type { PaneView } from "../charts/Pane.tsx";

interface Work {
  store: MarkStore;
  marks: readonly Mark[];
  selected: readonly string[];
  view: PaneView | undefined;
  session: DescentSession;
}

/** What can be done with marks that are selected, by key, from the menu on the chart and from the Sheet. */
export function useMarkCommands({ store, marks, selected, view, session }: Work) {
  const of = (ids: readonly string[]) => marks.filter(({ id }) => ids.includes(id));
  const lock = (ids: readonly string[]) => {
    const locked = of(ids).every((mark) => mark.locked);
    store.set(...of(ids).map((mark) => ({ ...mark, locked: !locked })));
  };
  const hide = (ids: readonly string[]) => {
    const hidden = of(ids).every((mark) => mark.hidden);
    store.set(...of(ids).map((mark) => ({ ...mark, hidden: !hidden })));
  };
  const remove = (ids: readonly string[]) => {
    store.remove(...of(ids).flatMap(({ id, locked }) => (locked ? [] : [id])));
    session.select([]);
  };
  const some = selected.length > 0;
  useFeature(session.commands, "marks", {
    remove: some ? () => remove(selected) : undefined,
    lock: some ? () => lock(selected) : undefined,
    hide: some ? () => hide(selected) : undefined,
    copy: some ? () => session.set({ open: "copy" }) : undefined,
  });
  return {
    menu: (ids: readonly string[]): MenuChoice[] => [
      { name: of(ids).every((mark) => mark.locked) ? "Unlock" : "Lock", command: "lock", run: () => lock(ids) },
      { name: "Hide", command: "hide", run: () => hide(ids) },
      { name: "Remove", command: "remove", run: () => remove(ids) },
    ],
    /** Puts what is selected on another market; what was done, in words. */
    copyTo(desk: MarketDesk, relation: Omit<CopyOf, "market" | "mark">): string {
      const { id: market, tick, decimals, name } = desk.market;
      const copies = of(selected).map((mark): Mark => {
        const anchors = equivalentAnchors(mark.anchors, relation).map(({ time, price }) => ({
          time,
          price: toTick(price, tick, decimals),
        }));
        const { kind, rung, props, note } = mark;
        return {
          id: crypto.randomUUID(),
          kind,
          rung,
          market,
          anchors,
          props,
          note,
          author: "",
          version: 0,
          copied: { ...relation, market: mark.market, mark: mark.id },
        };
      });
      desk.store.set(...copies);
      return `${countText(copies.length, "mark")} copied to ${name}.`;
    },
    /** The bearing of the rung in view, from its last bar on; one that was set on the same bar is replaced. */
    setBearing(direction: Direction, reasons: string): void {
      const series = view?.bars?.series;
      if (!view || !series || series.length === 0) return;
      const last = series.length - 1;
      const anchors = [{ time: series.time[last], price: series.close[last] }];
      const before = bearingsOf(marks).get(view.rung);
      const replaced = before?.anchors[0].time === anchors[0].time ? (before as unknown as Mark) : undefined;
      const fresh: Mark = {
        id: crypto.randomUUID(),
        kind: "bearing",
        market: view.desk.market.id,
        rung: view.rung,
        anchors,
        props: {},
        note: "",
        author: "",
        version: 0,
      };
      const props: BearingProps = { direction, reasons };
      store.set({ ...(replaced ?? fresh), anchors, props: { ...props } });
    },
  };
}
