import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useEffect, useState, type KeyboardEvent } from "react";
import { anchorsOf } from "#core/marks/countTree";
import type { Mark, MarketFacts } from "#core/marks/kind";
import type { Series } from "#core/series/series";
import type { SpanCount } from "#core/waves/odds";
import { SPANNING, type Span } from "#core/waves/spans";
import { CountPanel } from "./CountPanel.tsx";
import { SpanSection } from "./SpanSection.tsx";
import { freshCount } from "./useCounts.ts";
import { useSpans } from "./useSpans.ts";

interface Props {
  /** The bars that are counted: what is in view. */
  part: Series | undefined;
  /** The same from where the chosen mark begins; none where none is chosen. */
  since: Series | undefined;
  market: MarketFacts;
  rung: string;
  /** Whether the market has a preferred count already. */
  preferred: boolean;
  /** Draws a count on the chart while it is looked at. */
  onShow(mark: Mark | undefined): void;
  onTake(mark: Mark): void;
  onClose(): void;
}

/** Spans that are told: the whole view, and from the last turns of three smaller degrees on. */
const SPANS = { ...SPANNING, spans: 4 };

const WHOLE = "The whole view";
const PINNED = "From the chosen mark";
const keyOf = (span: number, count: number): string => `${span} ${count}`;
const FIRST = keyOf(0, 0);
/** It was asked for by a key: it comes into sight, wherever in the Sheet it stands. */
const inSight = (panel: HTMLElement | null): void => panel?.scrollIntoView({ block: "start" });

/**
 * What the machine counts in the view: the whole of it first, then what lies inside. Walking the list draws each count
 * on the chart.
 */
export function SpanCounts({ part, since, market, rung, preferred, onShow, onTake, onClose }: Props) {
  const { work, run, cancel } = useSpans();
  const [pinned, setPinned] = useState(false);
  const [named, setNamed] = useState(WHOLE);
  const counted = pinned && since ? since : part;
  const [chosen, choose] = useState<string>();
  // The first is drawn as soon as it is there.
  const at = chosen ?? (work.state === "done" ? FIRST : undefined);
  const markOf = ({ degree }: Span, { root }: SpanCount): Mark => {
    const { anchors, root: node } = anchorsOf(root);
    return freshCount(market.id, rung, anchors, {
      degree,
      scale: "log",
      role: preferred ? "alternate" : "preferred",
      root: node,
      shown: SPANS.degrees,
    });
  };
  const keyed = work.spans.flatMap((span, s) => span.counts.map((count, c) => ({ key: keyOf(s, c), span, count })));
  useEffect(() => {
    const one = keyed.find(({ key }) => key === at);
    onShow(one && markOf(one.span, one.count));
    // Nothing stays drawn when the panel goes.
    return () => onShow(undefined);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [at, work.spans]);
  const walk = (event: KeyboardEvent) => {
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    const next = keyed[keyed.findIndex(({ key }) => key === at) + step];
    if (step === 0 || !next) return;
    event.preventDefault();
    choose(next.key);
    document.querySelector<HTMLElement>(`[data-count="${next.key}"]`)?.focus();
  };
  const begin = () => {
    choose(undefined);
    setNamed(pinned && since ? PINNED : WHOLE);
    if (counted) run(counted, SPANS);
  };
  return (
    <CountPanel
      ref={inSight}
      title="Counted by machine"
      state={work.state}
      found={keyed.length}
      took={work.took}
      none="show more bars, or fewer"
      ready={counted !== undefined}
      onCount={begin}
      onCancel={cancel}
      onClose={onClose}
      choice={
        since ? (
          <Button variant="text" aria-pressed={pinned} sx={{ px: 0.5 }} onClick={() => setPinned(!pinned)}>
            {PINNED}
          </Button>
        ) : undefined
      }
    >
      <Box onKeyDown={walk}>
        {work.spans.map((span, s) => (
          <SpanSection
            key={s}
            span={span}
            name={s > 0 ? "Since the turn" : named}
            larger={s === 0 ? undefined : work.spans[0].counts.at(0)?.root}
            series={work.series}
            market={market}
            keyOf={(c) => keyOf(s, c)}
            shown={at}
            onShow={choose}
            onTake={(count) => onTake(markOf(span, count))}
          />
        ))}
      </Box>
      {work.state === "done" && keyed.length > 0 && (
        <Typography variant="caption" color="text.secondary" component="p" sx={{ mt: 1 }}>
          Odds are set on series with a planted count: there they hold about as often as they say. Whether markets are
          made so nobody knows. Arrow keys walk the counts.
        </Typography>
      )}
    </CountPanel>
  );
}
