import Box from "@mui/material/Box";
import ButtonBase from "@mui/material/ButtonBase";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { lazy, Suspense, useState } from "react";
import { distanceTo } from "#core/areas/areas";
import { FINDING_STEPS, type FindingStep, type Found } from "#core/finding/found";
import type { FindingParams } from "#core/finding/params";
import type { MarketFacts } from "#core/marks/kind";
import { countText, percentText, pipsText, priceText, rungText } from "#core/marks/wording";
import type { MarketWorth } from "../../../../server/desk/worth.ts";
import type { Proposals } from "./useProposals.ts";
import { WorthLine } from "./WorthLine.tsx";

const SoughtForm = lazy(async () => ({ default: (await import("../marks/SoughtForm.tsx")).SoughtForm }));

interface Props {
  proposals: Proposals;
  worth: MarketWorth;
  market: MarketFacts;
  /** Last price and ATR of the rung. */
  close: number;
  atr: number;
  /** Whether answers can be given: not in the past. */
  answerable: boolean;
  sought: { params: FindingParams; set: string; onSaved(): void };
}

/** How far away it is, in ATR of the rung. */
function atrText(fact: Found, close: number, atr: number): string {
  const away = Math.abs(distanceTo(fact, close));
  return away === 0 ? "here" : `${priceText(away / atr, { decimals: 1 })} ATR`;
}

const STEP_NAMES: Readonly<Record<FindingStep, string>> = {
  structure: "Structure",
  levels: "Levels",
  zones: "Zones",
  projections: "Projections",
  patterns: "Patterns",
};
const DISTANCES = [1, 2, 3, 5, 10];
/** Listed at once; the rest comes up as these are answered. */
const LISTED = 7;

/** What the machine offers on this rung: how many by step; walked one by one, or answered together by distance. */
export function ProposalList({ proposals, worth, market, close, atr, answerable, sought }: Props) {
  const { waiting, counts, step, open, current, within, near, far } = proposals;
  const [seeking, setSeeking] = useState(false);
  const all = FINDING_STEPS.reduce((sum, one) => sum + counts[one], 0);
  return (
    <Box component="section" aria-label="Proposals" sx={{ borderTop: 1, borderColor: "divider", mt: 1.5, pt: 1 }}>
      <Box sx={{ display: "flex", alignItems: "baseline", justifyContent: "space-between" }}>
        <Typography variant="h3">{countText(all, "proposal")}</Typography>
        <Button
          variant="text"
          sx={{ p: 0, px: 0.75, minHeight: 24 }}
          title={open ? "" : "J"}
          onClick={() => (open ? proposals.close() : proposals.walk())}
        >
          {open ? "Put away" : "Walk them"}
        </Button>
      </Box>
      <Box role="group" aria-label="Waiting by kind" sx={{ display: "flex", flexWrap: "wrap", ml: -0.75 }}>
        {FINDING_STEPS.filter((one) => counts[one] > 0 || step === one).map((one) => (
          <Button
            key={one}
            variant="text"
            aria-pressed={open && step === one}
            onClick={() => proposals.walk(step === one ? undefined : one)}
            sx={{ px: 0.75, py: 0, minHeight: 24, minWidth: 0, gap: 0.5, fontWeight: open && step === one ? 600 : 400 }}
          >
            {STEP_NAMES[one]} <strong>{counts[one]}</strong>
          </Button>
        ))}
        <Box sx={{ flex: 1 }} />
        <Button
          variant="text"
          aria-expanded={seeking}
          onClick={() => setSeeking(!seeking)}
          sx={{ px: 0.75, py: 0, minHeight: 24, minWidth: 0 }}
          title="What is looked for, in numbers"
        >
          Tune
        </Button>
      </Box>
      {seeking && (
        <Suspense>
          <SoughtForm {...sought} onClose={() => setSeeking(false)} />
        </Suspense>
      )}
      {open && waiting.length === 0 && (
        <Typography variant="body2" color="text.secondary" role="status">
          Nothing waits here. New ones come as bars close.
        </Typography>
      )}
      {current && <Current fact={current} {...{ worth, market, close, atr, proposals, answerable }} />}
      {open && waiting.length > 0 && (
        <>
          <Box component="ol" aria-label="Waiting" sx={{ listStyle: "none", p: 0, m: 0, mt: 0.5 }}>
            {waiting.slice(0, LISTED).map((fact) => (
              <Box component="li" key={fact.key}>
                <Box
                  component={ButtonBase}
                  disableRipple
                  aria-current={fact === current ? "true" : undefined}
                  onClick={() => proposals.choose(fact.key)}
                  sx={{
                    display: "flex",
                    justifyContent: "space-between",
                    gap: 1,
                    width: "100%",
                    minHeight: 24,
                    px: 0.5,
                    font: "inherit",
                    fontSize: "0.82rem",
                    textAlign: "left",
                    color: "text.primary",
                    bgcolor: fact === current ? "background.default" : "transparent",
                  }}
                >
                  <Box component="span" sx={{ overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}>
                    {fact.name}
                  </Box>
                  <Box component="span" sx={{ whiteSpace: "nowrap" }}>
                    {atrText(fact, close, atr)}
                  </Box>
                </Box>
              </Box>
            ))}
          </Box>
          {waiting.length > LISTED && (
            <Typography variant="caption" color="text.secondary" component="p">
              and {waiting.length - LISTED} more
            </Typography>
          )}
          {answerable && (
            <Box sx={{ display: "flex", alignItems: "center", flexWrap: "wrap", columnGap: 0.5, mt: 0.5 }}>
              <TextField
                select
                label="Within"
                value={within}
                onChange={(event) => proposals.setWithin(Number(event.target.value))}
                sx={{ width: 88 }}
              >
                {DISTANCES.map((one) => (
                  <MenuItem key={one} value={one}>
                    {one} ATR
                  </MenuItem>
                ))}
              </TextField>
              <Button
                variant="text"
                sx={{ px: 0.75 }}
                disabled={near.length === 0}
                onClick={() => proposals.acceptAbove()}
                title="4"
              >
                Accept the {near.length} within it
              </Button>
              <Button
                variant="text"
                sx={{ px: 0.75 }}
                disabled={far.length === 0}
                onClick={() => proposals.dismissBelow()}
                title="5"
              >
                Dismiss the {far.length} further away
              </Button>
            </Box>
          )}
        </>
      )}
    </Box>
  );
}

interface CurrentProps extends Pick<Props, "worth" | "market" | "close" | "atr" | "proposals" | "answerable"> {
  fact: Found;
}

/** The one that is being answered: its prices, how far off, what speaks for it, what its kind was worth here. */
function Current({ fact, worth, market, close, atr, proposals, answerable }: CurrentProps) {
  const away = distanceTo(fact, close);
  const prices =
    fact.top > fact.bottom
      ? `${priceText(fact.bottom, market)} to ${priceText(fact.top, market)}`
      : priceText(fact.bottom, market);
  const off =
    away === 0
      ? "price is there"
      : `${percentText(away / Math.abs(close), 2)}, ${pipsText(away, market)}, ` +
        `${priceText(away / atr, { decimals: 1 })} ATR`;
  const others = fact.lineage.slice(1);
  const button = { px: 0.75, py: 0, minHeight: 24, minWidth: 0 };
  return (
    <Box
      aria-label="Proposal"
      component="article"
      sx={{ borderLeft: "2px dotted", borderColor: "text.primary", pl: 1, my: 1 }}
    >
      <Typography variant="body2" sx={{ fontWeight: 600 }} role="status">
        {fact.name}
      </Typography>
      <Typography variant="body2">
        {prices}, {fact.state.split(";")[0]}
      </Typography>
      <Typography variant="caption" component="p" color="text.secondary">
        {off}
      </Typography>
      {fact.why.length > 0 && (
        <Typography variant="caption" component="p" color="text.secondary">
          {fact.why.join(" \u00b7 ")}
        </Typography>
      )}
      <WorthLine fact={fact} worth={worth} market={market} />
      {fact.state.includes(";") && (
        <Typography variant="caption" component="p" color="text.secondary">
          {fact.state.split(";").slice(1).join(";").trim()}
        </Typography>
      )}
      {others.length > 0 && (
        <Typography variant="caption" component="p">
          The same fact: {others.map(({ rung, name }) => `${rungText(rung)}: ${name}`).join("; ")}
        </Typography>
      )}
      {answerable && (
        <Box sx={{ display: "flex", ml: -0.75 }}>
          <Button variant="text" sx={button} onClick={() => proposals.accept(fact)} title="1">
            Accept
          </Button>
          <Button
            variant="text"
            sx={button}
            onClick={() => proposals.adjust(fact)}
            title="2: accept, and move its edges"
          >
            Adjust
          </Button>
          <Button variant="text" sx={button} onClick={() => proposals.dismiss(fact)} title="3">
            Dismiss
          </Button>
        </Box>
      )}
    </Box>
  );
}
