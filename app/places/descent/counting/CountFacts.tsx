import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useMemo, type ReactNode } from "react";
import type { MarketFacts } from "#core/marks/kind";
import {
  checkedWaves,
  type CountState,
  degreeAt,
  isDead,
  labelAt,
  nameAt,
  nestedTargets,
  readingOf,
  ruleNumbers,
} from "#core/marks/count";
import { percentText, priceText } from "#core/marks/wording";
import { lastAtOrBefore, type Series } from "#core/series/series";
import { channelsOf } from "#core/waves/channel";
import { guidelinesOf, isKept, keptOf } from "#core/waves/guidelines";
import { momentumOf } from "#core/waves/momentum";
import { PATTERNS } from "#core/waves/patterns";
import { targetAreas } from "#core/waves/targetAreas";
import { timeTargetsOf } from "#core/waves/targets";
import { allWaves, spine } from "#core/waves/wave";
import { dateText, momentText } from "../../../parts/times.ts";
import { Part, Row } from "./Row.tsx";
import type { Counted } from "./useCounts.ts";

interface Props {
  mark: Counted;
  state: CountState | undefined;
  market: MarketFacts;
  /** Bars of the chart that is worked on, and the ATR of its rung. */
  series: Series | undefined;
  atr: number;
  zone: string;
  intraday: boolean;
}

/** What a count is judged by: what would end it, its rules and guidelines, and where the waves in progress may go. */
export function CountFacts(props: Props) {
  return (
    <>
      <Kills {...props} />
      <Rules {...props} />
      <Guidelines {...props} />
      <Targets {...props} />
      <Times {...props} />
    </>
  );
}

/** Each live statement with the price that ends it, from the root down. */
function Kills({ mark, state, market, series, atr }: Props) {
  const { statements } = readingOf(mark);
  const close = series?.close.at(-1);
  if (statements.length === 0) return null;
  return (
    <Part title="What would end it" open>
      {statements.map((statement, i) => {
        const { at, statement: says, killPrice, killSide, killRule, asserted } = statement;
        const dead = state && isDead(state, statement);
        const away =
          close === undefined
            ? ""
            : `, ${percentText(Math.abs(killPrice / close - 1), 2)}` +
              (atr > 0 ? `, ${priceText(Math.abs(killPrice - close) / atr, { decimals: 1 })} ATR away` : " away");
        return (
          <Row
            key={i}
            dim={!asserted || dead === true}
            left={
              <span title={killRule}>
                {dead ? <s>{says}</s> : says}
                {nameAt(mark, at)}
                {asserted ? "" : " (if that dies)"}
              </span>
            }
            right={
              <span title={`${killRule}${away}`}>
                {"\u00d7"} {killSide} {priceText(killPrice, market)}
              </span>
            }
          />
        );
      })}
    </Part>
  );
}

/** Lines of one wave under its name; the root's need none. */
function OfWave({ mark, at, children }: { mark: Counted; at: readonly number[]; children: ReactNode }) {
  return (
    <>
      {at.length > 0 && (
        <Typography variant="caption" component="p" sx={({ vars }) => ({ color: vars?.palette.compass.plum, mt: 0.5 })}>
          {nameAt(mark, at).trim()}
        </Typography>
      )}
      {children}
    </>
  );
}

function Rules({ mark, market }: Props) {
  const waves = checkedWaves(mark);
  const broken = waves.reduce((sum, { rules }) => sum + rules.filter(({ holds }) => !holds).length, 0);
  const all = waves.reduce((sum, { rules }) => sum + rules.length, 0);
  return (
    <Part title={broken > 0 ? `Rules: ${broken} of ${all} broken` : `Rules: ${all} hold`} open={broken > 0}>
      {waves.map(({ at, rules }) => (
        <OfWave key={at.join()} mark={mark} at={at}>
          {rules.map((line) => (
            <Row
              key={line.rule}
              dim={line.holds}
              left={<span title={`${ruleNumbers(line, market)} (${line.source})`}>{line.rule}</span>}
              right={
                (line.holds ? "" : "\u00d7 ") +
                (ruleNumbers(line, market).split(", ").at(-1) || (line.holds ? "holds" : "broken"))
              }
            />
          ))}
        </OfWave>
      ))}
    </Part>
  );
}

function Guidelines({ mark, series }: Props) {
  const { wave, options } = readingOf(mark);
  const lines = useMemo(
    () =>
      allWaves(wave).map(({ wave: one, at }) => ({
        at,
        lines: guidelinesOf(one, options.scale, series ? momentumOf(one, series) : {}),
      })),
    [wave, options, series],
  );
  const kept = keptOf(lines.flatMap((one) => one.lines));
  if (kept.of === 0) return null;
  return (
    <Part title={`Guidelines: ${kept.kept} of ${kept.of} kept`}>
      {lines.map(({ at, lines: own }) => (
        <OfWave key={at.join()} mark={mark} at={at}>
          {own.map(({ guideline, score: met, numbers, usual }) => (
            <Row
              key={guideline}
              dim={isKept({ score: met })}
              left={<span title={`Usual: ${usual}`}>{guideline}</span>}
              right={`${Object.values(numbers)
                .map((value) => priceText(value, { decimals: Math.abs(value) < 20 ? 2 : 0 }))
                .join(" / ")}, ${isKept({ score: met }) ? "kept" : "not kept"}`}
            />
          ))}
        </OfWave>
      ))}
    </Part>
  );
}

/** Targets of every wave in progress, nearest first, with percent, ATR and multiples of the risk to the kill price. */
function Targets({ mark, state, market, series, atr }: Props) {
  const close = series?.close.at(-1);
  const targets = nestedTargets(mark);
  if (targets.length === 0 || close === undefined) return null;
  const { asserted, wave, options } = readingOf(mark);
  const kill = asserted.find(({ at }) => at.length === 0)?.killPrice;
  const risk = kill === undefined ? 0 : Math.abs(close - kill);
  const bars = series;
  const channels = bars
    ? spine(wave).flatMap(({ wave: one, at }) =>
        channelsOf(one, (time) => lastAtOrBefore(bars, time), options.scale).map((channel) => ({
          channel,
          at,
          value: channel.parallel(bars.length - 1),
        })),
      )
    : [];
  const reasons = [
    ...targets.map(({ at, wave: label, ratio, price, basis }) => ({
      price,
      from: degreeAt(mark.props, at.length),
      method: `${label}: ${ratio} ${basis}`,
    })),
    ...channels.map(({ channel, at, value }) => ({
      price: value,
      from: degreeAt(mark.props, at.length),
      method: `channel ${channel.name}`,
    })),
  ];
  const areas = targetAreas(reasons, atr);
  const figures = (price: number) =>
    [
      percentText(price / close - 1, 1),
      ...(atr > 0 ? [`${priceText(Math.abs(price - close) / atr, { decimals: 1 })} ATR`] : []),
      ...(risk > 0 ? [`${priceText(Math.abs(price - close) / risk, { decimals: 1 })} R`] : []),
    ].join(", ");
  const priced = (price: number) => (
    <>
      {priceText(price, market)}
      <Box component="span" sx={{ display: "block", fontSize: "0.75rem" }}>
        {figures(price)}
      </Box>
    </>
  );
  return (
    <Part title={`Targets: ${targets.length}${areas.length > 0 ? `, ${areas.length} agree` : ""}`} open>
      {areas.map(({ bottom, top, reasons: agree }) => (
        <Row
          key={`${bottom} ${top}`}
          left={
            `${priceText(bottom, market)} to ${priceText(top, market)}: ` +
            `${agree.map(({ from, method }) => `${from} ${method.split(/[,:] /).slice(0, 2).join(" ")}`).join("; ")}`
          }
          right={figures((bottom + top) / 2)}
        />
      ))}
      {[...targets]
        .sort((a, b) => Math.abs(a.price - close) - Math.abs(b.price - close))
        .map(({ at, wave: label, ratio, price, basis }) => (
          <Row
            key={`${at.join()} ${ratio} ${basis}`}
            dim
            left={
              `${labelAt(mark.props, label, at.length)}: ${ratio} ` +
              `${basis}${state?.reached.includes(price) ? ", reached" : ""}`
            }
            right={priced(price)}
          />
        ))}
      {channels.map(({ channel, at, value }) => (
        <Row
          key={`${at.join()} ${channel.name}`}
          dim
          left={`Channel ${channel.name}${nameAt(mark, at)}, at the last bar`}
          right={priced(value)}
        />
      ))}
    </Part>
  );
}

function Times({ mark, zone, intraday }: Props) {
  const { wave } = readingOf(mark);
  const times = spine(wave).flatMap(({ wave: one, at }) => timeTargetsOf(one).map((target) => ({ ...target, at })));
  if (times.length === 0) return null;
  return (
    <Part title="Times">
      {times.map(({ wave: label, ratio, time, basis, at }) => (
        <Row
          key={`${at.join()} ${ratio} ${basis}`}
          dim
          left={`${labelAt(mark.props, label, at.length)}: ${ratio} ${basis}`}
          right={intraday ? momentText(time, zone) : dateText(time)}
        />
      ))}
    </Part>
  );
}

/** What a count says in one line of a comparison. */
export function summaryOf(mark: Counted): {
  name: string;
  guidelines: { kept: number; of: number };
  broken: number;
} {
  const { wave, options } = readingOf(mark);
  const lines = allWaves(wave).flatMap(({ wave: one }) => guidelinesOf(one, options.scale));
  return {
    name: `${mark.props.degree} ${PATTERNS[mark.props.root.pattern].title}`,
    guidelines: keptOf(lines),
    broken: checkedWaves(mark).flatMap(({ rules }) => rules.filter(({ holds }) => !holds)).length,
  };
}
