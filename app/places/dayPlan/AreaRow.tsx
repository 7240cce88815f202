import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { distanceTo } from "#core/areas/areas";
import type { MarketFacts } from "#core/marks/kind";
import { bandText, pipsText, rungText } from "#core/marks/wording";
import { worthSays } from "#core/measure/worthText";
import type { PlanArea, PlanLine } from "#core/round/dayPlan";
import type { MarketWorth } from "../../../server/desk/worth.ts";

interface Props {
  area: PlanArea;
  price: number;
  atr: number;
  market: MarketFacts;
  worth: MarketWorth;
  /** Keys of what still waits for an answer. */
  waiting: ReadonlySet<string>;
  current: boolean;
  open: boolean;
  onOpen(): void;
  onAccept(lines: readonly PlanLine[]): void;
  onDismiss(lines: readonly PlanLine[]): void;
  onFocus(): void;
}

/** Named of it before it is opened. */
const NAMED = 3;
const button = { py: 0, px: 0.5, minHeight: 24, minWidth: 0 };

/** An area of the day in one line; opened, everything that is in it, each with what its kind was worth. */
export function AreaRow({ area, price, atr, market, worth, waiting, current, open, ...on }: Props) {
  const offered = area.lines.filter(({ key }) => waiting.has(key));
  const names = [...new Set(area.lines.map(({ name }) => name))];
  const named = names.slice(0, NAMED).join("; ");
  const more = names.length - NAMED;
  return (
    <Box
      component="li"
      data-area={area.key}
      tabIndex={current ? 0 : -1}
      onFocus={on.onFocus}
      aria-current={current ? "true" : undefined}
      sx={{
        borderBottom: 1,
        borderColor: "divider",
        borderLeft: "3px solid",
        borderLeftColor: current ? "text.primary" : "transparent",
        pl: 0.75,
        py: 0.5,
        fontSize: "0.9rem",
      }}
    >
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0, 1fr) auto", md: "150px minmax(0, 1fr) 116px 128px" },
          columnGap: 1.5,
          alignItems: "baseline",
        }}
      >
        <Box component="strong">{bandText(area, market)}</Box>
        <Box component="span" sx={{ gridRow: { xs: 2, md: "auto" } }}>
          <Button
            variant="text"
            tabIndex={-1}
            aria-expanded={open}
            onClick={on.onOpen}
            sx={{ ...button, px: 0, textAlign: "left", fontWeight: 400, fontSize: "0.9rem", lineHeight: 1.35 }}
          >
            {named}
            {more > 0 ? ` and ${more} more` : ""}
          </Button>
          <Box component="span" sx={{ color: "text.secondary", fontSize: "0.82rem" }}>
            {" "}
            {area.rungs.map(rungText).join(", ")}
          </Box>
        </Box>
        <Away area={area} price={price} atr={atr} market={market} />
        <Box component="span" sx={{ whiteSpace: "nowrap", gridRow: { xs: 2, md: "auto" } }}>
          {offered.length > 0 ? (
            <Answers of={named} onAccept={() => on.onAccept(offered)} onDismiss={() => on.onDismiss(offered)} />
          ) : area.lines.some(({ fact }) => fact) ? (
            <Typography variant="caption">answered</Typography>
          ) : (
            <Typography variant="caption">stands</Typography>
          )}
        </Box>
      </Box>
      {open && (
        <Box component="ul" aria-label={`In ${bandText(area, market)}`} sx={{ listStyle: "none", p: 0, pl: 2, m: 0 }}>
          {area.lines.map((line) => (
            <Inside
              key={line.key}
              line={line}
              market={market}
              worth={worth}
              waiting={waiting.has(line.key)}
              onAccept={() => on.onAccept([line])}
              onDismiss={() => on.onDismiss([line])}
            />
          ))}
        </Box>
      )}
    </Box>
  );
}

function Away({ area, price, atr, market }: Pick<Props, "area" | "price" | "atr" | "market">) {
  const distance = distanceTo(area, price);
  const size = Math.abs(distance);
  return (
    <Box component="span" sx={{ textAlign: "right", color: "text.secondary", fontSize: "0.82rem" }}>
      {distance === 0
        ? "price is in it"
        : `${distance > 0 ? "\u2191" : "\u2193"} ${pipsText(size, market)}` +
          (atr > 0 ? `, ${(size / atr).toFixed(1)} ATR` : "")}
    </Box>
  );
}

interface InsideProps extends Pick<Props, "market" | "worth"> {
  line: PlanLine;
  waiting: boolean;
  onAccept(): void;
  onDismiss(): void;
}

function Inside({ line, market, worth, waiting, onAccept, onDismiss }: InsideProps) {
  const says = line.fact && worthSays(line.fact, worth);
  return (
    <Box component="li" sx={{ display: "flex", gap: 1, alignItems: "baseline", fontSize: "0.85rem" }}>
      <span style={{ flex: 1 }}>
        {bandText(line, market)} {line.name}
        {line.rungs.length > 0 ? `, ${line.rungs.map(rungText).join(", ")}` : ""}
        {says && (
          <Typography component="span" variant="caption" color="text.secondary" sx={{ display: "block" }}>
            {says}
          </Typography>
        )}
      </span>
      {waiting ? (
        <Answers of={line.name} reached onAccept={onAccept} onDismiss={onDismiss} />
      ) : (
        <Typography variant="caption">{line.fact ? "answered" : line.what === "mark" ? "stands" : ""}</Typography>
      )}
    </Box>
  );
}

interface AnswersProps {
  of: string;
  /** By Tab: within an area that is open. An area itself is answered by its keys. */
  reached?: boolean;
  onAccept(): void;
  onDismiss(): void;
}

function Answers({ of, reached = false, onAccept, onDismiss }: AnswersProps) {
  const tabIndex = reached ? 0 : -1;
  return (
    <span>
      <Button variant="text" tabIndex={tabIndex} sx={button} onClick={onAccept} aria-label={`Accept ${of}`}>
        Accept
      </Button>
      <Button variant="text" tabIndex={tabIndex} sx={button} onClick={onDismiss} aria-label={`Dismiss ${of}`}>
        Dismiss
      </Button>
    </span>
  );
}
