import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useEffect, useEffectEvent, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { distanceTo, type Area } from "#core/areas/areas";
import type { RungReading } from "#core/finding/reading";
import { percentText, priceText, rungText } from "#core/marks/wording";
import { nextMarket, nextStop, type Stop } from "#core/round/walk";
import type { Board } from "../../../server/round/board.ts";
import { useCommands } from "../../parts/keys.ts";
import { Folded } from "./Folded.tsx";
import { StopPanel } from "./StopPanel.tsx";
import type { Round } from "./useRound.ts";
import { useWalkDesk } from "./useWalkDesk.ts";
import { WalkChart } from "./WalkChart.tsx";
import { writeAt } from "./writeAt.ts";

interface Props {
  account: string;
  board: Board;
  round: Round;
  at: Stop;
  /** Only stops that a candle closed on since, or that are to be asked again. */
  onlyOpen: boolean;
  now: number;
  go(stop: Stop | undefined): void;
  onEnd(): void;
}

/** The walk: one stop after the other with its chart in view; going on is itself "nothing". */
export function Walk({ account, board, round, at, onlyOpen, now, go, onEnd }: Props) {
  const navigate = useNavigate();
  const row = round.rowOf(at.market);
  const cell = round.cellOf(at);
  const wanted = (stop: Stop) => !onlyOpen || round.isOpen(stop);
  const on = nextStop(round.stops, at, wanted);
  const { desk, trouble } = useWalkDesk(account, at.market, on);
  const [read, setRead] = useState<{
    of: string;
    reading: RungReading | undefined;
    areas: readonly Area[];
    price: number | undefined;
  }>();
  const [opened, setOpened] = useState<{ what: "ruler" | "alert"; of: string }>();
  const [wrote, setWrote] = useState<{ of: string; said?: string }>();
  const remark = useRef<HTMLInputElement>(null);
  const of = `${at.market} ${at.rung}`;
  const here = read?.of === of ? read : undefined;

  /** What leaving a stop says: that it was looked at and, on the last one of a market nothing was said on, nothing. */
  const leave = (to: Stop | undefined) => {
    round.look(at);
    if (!round.rowOf(at.market)?.verdict && (!to || to.market !== at.market)) round.say(at, "nothing");
    setOpened(undefined);
  };
  const next = () => {
    leave(on);
    if (on) go(on);
    else onEnd();
  };
  const say = (verdict: "nothing" | "watch" | "plan") =>
    round.say(at, verdict, verdict === "nothing" ? { remark: "" } : {});
  /** A plan on a market that has no scenario yet begins one at the nearest area, to be worked out on its own page. */
  const plan = () => {
    say("plan");
    if (row && row.calls.length === 0 && wrote?.of !== at.market) setWrote({ of: at.market });
  };
  const atr = here?.reading?.atr;
  const write = useEffectEvent(async (): Promise<string> => {
    const price = here?.price;
    if (!row || !here || price === undefined || atr === undefined) return "";
    const [nearest] = [...here.areas].sort((a, b) => Math.abs(distanceTo(a, price)) - Math.abs(distanceTo(b, price)));
    if (!nearest) return "No area stands here to write a scenario from.";
    return writeAt(nearest, { price, atr, rung: at.rung, now }, row);
  });
  // What a chart says of its rung comes after its bars: a plan said before that is written once it is there.
  const writing = wrote?.said === undefined && wrote?.of === at.market ? wrote.of : undefined;
  const readable = here?.price !== undefined && atr !== undefined;
  useEffect(() => {
    if (writing !== undefined && readable) void write().then((said) => setWrote({ of: writing, said }));
  }, [writing, readable]);
  const verdict = row?.verdict;
  const askAgain = () => {
    if (!verdict || verdict.verdict === "nothing") return;
    round.say({ market: at.market, rung: verdict.rung }, verdict.verdict, {
      asksAt:
        verdict.asksAt === null ? (round.cellOf({ market: at.market, rung: verdict.rung })?.closesAt ?? null) : null,
    });
  };
  const open = (what: "ruler" | "alert") =>
    setOpened(opened?.what === what && opened.of === of ? undefined : { what, of });
  useCommands({
    lookNext: next,
    lookBack: () => {
      const back = nextStop(round.stops, at, undefined, -1);
      if (back) go(back);
    },
    lookMarket: () => {
      const market = nextMarket(round.stops, at);
      leave(market);
      if (market) go(market);
      else onEnd();
    },
    sayWatch: () => say("watch"),
    sayPlan: () => plan(),
    sayNothing: () => say("nothing"),
    askAgain,
    remark: () => remark.current?.focus(),
    quickRuler: () => open("ruler"),
    setAlert: () => open("alert"),
    toDescent: () => {
      if (document.activeElement instanceof HTMLButtonElement || document.activeElement instanceof HTMLAnchorElement)
        return document.activeElement.click();
      round.look(at);
      void navigate(`/descent/${at.market}?rung=${at.rung}`);
    },
    toBoard: () => (opened?.of === of ? setOpened(undefined) : go(undefined)),
  });
  const place = round.stops.findIndex(({ market, rung }) => market === at.market && rung === at.rung) + 1;
  if (!row) return null;
  return (
    <Box
      component="main"
      id="content"
      sx={{
        ...{ flex: 1, minHeight: 0, display: "flex" },
        ...{ flexDirection: { xs: "column", md: "row" }, overflowY: { xs: "auto", md: "visible" } },
      }}
    >
      <Folded round={round} at={at} tradable={board.tradable} onGo={go} />
      <Box sx={{ flex: { xs: "none", md: 1 }, minWidth: 0, display: "flex", flexDirection: "column" }}>
        <Box
          sx={{
            display: "flex",
            alignItems: "baseline",
            columnGap: 2,
            px: 1.5,
            py: 0.5,
            flexWrap: "wrap",
            borderBottom: 1,
            borderColor: "divider",
          }}
        >
          <Typography variant="h2" component="h1">
            {row.name}, {rungText(at.rung)}
          </Typography>
          {row.standing?.price !== undefined && (
            <Typography sx={{ fontWeight: 600 }}>{priceText(row.standing.price, row)}</Typography>
          )}
          {cell?.shiftAt !== undefined && (
            <Typography variant="body2">
              A {rungText(at.rung).toLowerCase()} close beyond <strong>{priceText(cell.shiftAt, row)}</strong> shifts it
            </Typography>
          )}
          <Box sx={{ flex: 1 }} />
          <Typography variant="body2" color="text.secondary" role="status">
            Stop {place} of {round.stops.length};{" "}
            {percentText(round.done.of > 0 ? round.done.looked / round.done.of : 0, 0)} looked at
            {round.trouble ? `; not saved yet: ${round.trouble}` : round.saving ? "; saving" : ""}
          </Typography>
        </Box>
        <Box
          sx={{ flex: { xs: "none", md: 1 }, height: { xs: "46vh", md: "auto" }, minHeight: 0, position: "relative" }}
          data-stop={here?.price === undefined ? undefined : of}
        >
          {desk ? (
            <WalkChart desk={desk} row={row} rung={at.rung} now={now} onRead={(said) => setRead({ of, ...said })} />
          ) : (
            <Typography color="text.secondary" sx={{ p: 2 }}>
              {trouble
                ? "This market could not be had: the server does not answer. Press N to go on, or B and come back."
                : "The chart is on its way."}
            </Typography>
          )}
        </Box>
      </Box>
      <StopPanel
        key={at.market}
        row={row}
        rung={at.rung}
        cell={cell}
        reading={here?.reading}
        areas={here?.areas ?? []}
        price={here?.price ?? row.standing?.price}
        now={now}
        opened={opened?.of === of ? opened.what : undefined}
        remark={remark}
        onSay={(verdictSaid) => (verdictSaid === "plan" ? plan() : say(verdictSaid))}
        onAskAgain={askAgain}
        onRemark={(words) =>
          round.say({ market: at.market, rung: verdict?.rung ?? at.rung }, verdict?.verdict ?? "nothing", {
            remark: words,
            asksAt: verdict?.asksAt ?? null,
          })
        }
        onOpen={open}
        onNext={next}
        last={on === undefined}
        written={wrote?.of === at.market ? (wrote.said ?? "It is written once the chart is read.") : ""}
      />
    </Box>
  );
}
