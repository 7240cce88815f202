import Box from "@mui/material/Box";
import { useColorScheme } from "@mui/material/styles";
import { useEffect, useRef } from "react";
import type { Anchor } from "#core/marks/kind";
import type { Picture } from "../../chart/picture.ts";
import { ChartController, type ChartHandlers } from "./controller.ts";
import type { LinkedCursor } from "./linkedCursor.ts";

interface Props {
  /** Tells the charts of a page apart. */
  name: string;
  picture: Picture;
  /** Changes when another market or rung is shown: the view then starts at its latest bars. */
  subject: string;
  placing: Anchor[] | undefined;
  /** Points a ruler lies between. */
  measured: readonly Anchor[] | undefined;
  log: boolean;
  /** Where to go; each new object is one wish. */
  goTo: { time: number } | undefined;
  /** The instant that is held on every chart. */
  moment: number | undefined;
  /** Each new number fits the prices anew. */
  fits: number;
  /** The cursor that all charts share. */
  cursor: LinkedCursor;
  handlers: Omit<ChartHandlers, "onPointed">;
  label: string;
}

/** The price chart on the page. Everything it shows is in `picture`; all it does goes through `handlers`. */
export function PriceChart({
  name,
  picture,
  subject,
  placing,
  measured,
  log,
  goTo,
  moment,
  fits,
  cursor,
  handlers,
  label,
}: Props) {
  const host = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLDivElement>(null);
  const controller = useRef<ChartController>(null);
  const latest = useRef({ handlers, name, market: picture.market.id });
  const shown = useRef({ subject: "", first: 0, length: 0 });
  const { mode, systemMode } = useColorScheme();

  useEffect(() => {
    latest.current = { handlers, name, market: picture.market.id };
  });

  useEffect(() => {
    if (!host.current || !canvas.current) return;
    const made = new ChartController(host.current, canvas.current, {
      onAnchor: (anchor) => latest.current.handlers.onAnchor(anchor),
      onSelect: (ids, add) => latest.current.handlers.onSelect(ids, add),
      onMoment: (instant) => latest.current.handlers.onMoment(instant),
      onMenu: (menu) => {
        // The chart knows its own pixels; the menu opens in those of the window.
        const { left, top } = host.current?.getBoundingClientRect() ?? { left: 0, top: 0 };
        latest.current.handlers.onMenu({ ...menu, point: { x: menu.point.x + left, y: menu.point.y + top } });
      },
      onDrag: (mark) => latest.current.handlers.onDrag(mark),
      onDrop: (marks) => latest.current.handlers.onDrop(marks),
      onPanel: (panel, height) => latest.current.handlers.onPanel?.(panel, height),
      onPrice: (field, price) => latest.current.handlers.onPrice?.(field, price),
      onPointed: (at) => {
        const { name: chart, market } = latest.current;
        // A chart the pointer has left does not take the cursor from the one it has come to.
        if (at) cursor.set({ chart, market, ...at });
        else if (cursor.get()?.chart === chart) cursor.set(undefined);
      },
      onView: (view) => latest.current.handlers.onView(view),
      onEarliest: () => latest.current.handlers.onEarliest(),
    });
    controller.current = made;
    // Where another rung takes the place of the one before, pointer and keys are where they were.
    const rest = cursor.takeRest(latest.current.name);
    const here = host.current;
    if (rest?.focused && document.activeElement === document.body) here.focus({ preventScroll: true });
    if (rest?.point) made.hover(rest.point);
    // A pointer that went away meanwhile is not there when it moves next.
    const moved = ({ target }: PointerEvent) => {
      if (!here.contains(target as Node)) made.hover(undefined);
    };
    window.addEventListener("pointermove", moved, { once: true });
    shown.current = { subject: "", first: 0, length: 0 };
    const watch = new ResizeObserver(([{ contentRect }]) => made.resize(contentRect.width, contentRect.height));
    watch.observe(here);
    const leave = cursor.subscribe(() => {
      const at = cursor.get();
      const { name: chart, market } = latest.current;
      made.setLinked(
        at && at.chart !== chart
          ? { instant: at.instant, ...(at.market === market ? { price: at.price } : {}) }
          : undefined,
      );
    });
    return () => {
      cursor.leave(latest.current.name, document.activeElement === here);
      leave();
      window.removeEventListener("pointermove", moved);
      watch.disconnect();
      made.dispose();
    };
  }, [cursor]);

  useEffect(() => {
    controller.current?.setScheme((mode === "system" ? systemMode : mode) === "dark" ? "dark" : "light");
  }, [mode, systemMode]);

  useEffect(() => {
    const series = picture.pyramid.levels[0];
    const before = shown.current;
    const fresh = before.subject !== subject || before.length === 0;
    const prepended =
      !fresh && series.length > before.length && series.time[0] < before.first ? series.length - before.length : 0;
    controller.current?.setPicture(picture, fresh, prepended);
    shown.current = { subject, first: series.time[0], length: series.length };
  }, [picture, subject]);

  useEffect(() => controller.current?.setPlacing(placing), [placing]);
  useEffect(() => controller.current?.setMeasured(measured), [measured]);
  useEffect(() => controller.current?.setLog(log), [log]);
  useEffect(() => controller.current?.setMoment(moment), [moment]);
  useEffect(() => {
    if (goTo) controller.current?.goTo(goTo.time);
  }, [goTo]);
  useEffect(() => {
    if (fits > 0) controller.current?.fit();
  }, [fits]);

  return (
    <Box
      ref={host}
      role="application"
      aria-label={label}
      tabIndex={0}
      data-chart
      onKeyDown={(event) => {
        if (!event.ctrlKey && !event.metaKey && controller.current?.key(event.nativeEvent)) event.preventDefault();
      }}
      sx={{
        position: "absolute",
        inset: 0,
        touchAction: "none",
        userSelect: "none",
        "&:focus-visible": { outline: "1.5px solid", outlineOffset: -2 },
      }}
    >
      <Box ref={canvas} sx={{ position: "absolute", inset: 0, pointerEvents: "none" }} />
    </Box>
  );
}
