import Box from "@mui/material/Box";
import { useColorScheme } from "@mui/material/styles";
import { useEffect, useRef } from "react";
import type { Anchor } from "#core/marks/kind";
import type { Picture } from "../../chart/picture.ts";
import { ChartController, type ChartHandlers } from "./controller.ts";

interface Props {
  picture: Picture;
  /** Changes when another market or rung is shown: the view then starts at its latest bars. */
  subject: string;
  placing: Anchor[] | undefined;
  /** Points a ruler lies between. */
  measured: readonly Anchor[] | undefined;
  log: boolean;
  /** Where to go; each new object is one wish. */
  goTo: { time: number } | undefined;
  /** Each new number fits the prices anew. */
  fits: number;
  handlers: ChartHandlers;
  label: string;
}

/** The price chart on the page. Everything it shows is in `picture`; all it does goes through `handlers`. */
export function PriceChart({ picture, subject, placing, measured, log, goTo, fits, handlers, label }: Props) {
  const host = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLDivElement>(null);
  const controller = useRef<ChartController>(null);
  const latest = useRef(handlers);
  const shown = useRef({ subject: "", first: 0, length: 0 });
  const { mode, systemMode } = useColorScheme();

  useEffect(() => {
    latest.current = handlers;
  });

  useEffect(() => {
    if (!host.current || !canvas.current) return;
    const made = new ChartController(host.current, canvas.current, {
      onAnchor: (anchor) => latest.current.onAnchor(anchor),
      onSelect: (id) => latest.current.onSelect(id),
      onDrag: (mark) => latest.current.onDrag(mark),
      onDrop: (mark) => latest.current.onDrop(mark),
      onReadout: (at) => latest.current.onReadout(at),
      onView: (view) => latest.current.onView(view),
      onEarliest: () => latest.current.onEarliest(),
    });
    controller.current = made;
    shown.current = { subject: "", first: 0, length: 0 };
    const watch = new ResizeObserver(([{ contentRect }]) => made.resize(contentRect.width, contentRect.height));
    watch.observe(host.current);
    return () => {
      watch.disconnect();
      made.dispose();
    };
  }, []);

  useEffect(() => {
    controller.current?.setScheme((mode === "system" ? systemMode : mode) === "dark" ? "dark" : "light");
  }, [mode, systemMode]);

  useEffect(() => {
    const series = picture.pyramid.levels[0];
    const before = shown.current;
    const fresh = before.subject !== subject || before.length === 0;
    const prepended = !fresh && series.length > before.length && series.time[0] < before.first ? series.length - before.length : 0;
    controller.current?.setPicture(picture, fresh, prepended);
    shown.current = { subject, first: series.time[0], length: series.length };
  }, [picture, subject]);

  useEffect(() => controller.current?.setPlacing(placing), [placing]);
  useEffect(() => controller.current?.setMeasured(measured), [measured]);
  useEffect(() => controller.current?.setLog(log), [log]);
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
      sx={{ position: "absolute", inset: 0, touchAction: "none", userSelect: "none", "&:focus-visible": { outline: "1.5px solid", outlineOffset: -2 } }}
    >
      <Box ref={canvas} sx={{ position: "absolute", inset: 0, pointerEvents: "none" }} />
    </Box>
  );
}
