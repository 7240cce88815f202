import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import ButtonBase from "@mui/material/ButtonBase";
import Typography from "@mui/material/Typography";
import type { MarketFacts } from "#core/marks/kind";
import { countText, priceText } from "#core/marks/wording";
import type { Series } from "#core/series/series";
import { insideOfCount, separationOf } from "#core/waves/spanSays";
import type { SpanCount } from "#core/waves/odds";
import { PATTERNS } from "#core/waves/patterns";
import type { Span } from "#core/waves/spans";
import { inProgress, type Wave } from "#core/waves/wave";
import { momentText } from "../../../parts/times.ts";

interface Props {
  span: Span;
  name: string;
  /** First count of the whole view, which holds this one's where it can. */
  larger: Wave | undefined;
  series: Series | undefined;
  market: MarketFacts;
  keyOf(count: number): string;
  /** Key of the count that is drawn. */
  shown: string | undefined;
  onShow(key: string): void;
  onTake(count: SpanCount): void;
}

/** A span with its counts, what is said of the odds that none holds, and how far they are told apart. */
export function SpanSection({ span, name, larger, series, market, keyOf, shown, onShow, onTake }: Props) {
  const from = series?.time[span.from];
  const { counts, none, why, degree } = span;
  return (
    <Box component="section" aria-label={name} sx={{ mt: 1 }}>
      <Typography variant="body2" sx={{ fontWeight: 600 }}>
        {name}
        {from === undefined ? "" : `, from ${momentText(from, "utc").split(",")[0]}`}; {degree}
      </Typography>
      <Typography variant="caption" component="p" color="text.secondary">
        {why ? `${why} ` : ""}
        {separationText(span, market)}
      </Typography>
      <Box component="ol" aria-label={`Counts of ${name}`} sx={{ listStyle: "none", p: 0, m: 0 }}>
        {counts.map((count, c) => (
          <Box
            component="li"
            key={keyOf(c)}
            sx={{ display: "flex", gap: 0.5, borderBottom: 1, borderColor: "divider", alignItems: "flex-start" }}
          >
            <CountLine
              count={count}
              id={keyOf(c)}
              inside={larger && insideOfCount(larger, count.root)}
              shown={shown === keyOf(c)}
              market={market}
              onShow={() => onShow(keyOf(c))}
            />
            <Button
              variant="text"
              sx={{ px: 0.5, py: 0, minWidth: 0, minHeight: 24 }}
              onClick={() => onTake(count)}
              aria-label={`Take ${titleOf(count)}`}
            >
              Take
            </Button>
          </Box>
        ))}
      </Box>
      {counts.length > 0 && (
        <Typography variant="caption" component="p" sx={{ pl: 0.5 }}>
          None of these: {of100(none)}
        </Typography>
      )}
    </Box>
  );
}

interface LineProps {
  count: SpanCount;
  id: string;
  inside: string[] | undefined;
  shown: boolean;
  market: MarketFacts;
  onShow(): void;
}

function CountLine({ count, id, inside, shown, market, onShow }: LineProps) {
  const { root, odds, kill, also, parts } = count;
  return (
    <Box
      component={ButtonBase}
      disableRipple
      data-count={id}
      aria-pressed={shown}
      onClick={onShow}
      onFocus={onShow}
      sx={{
        display: "block",
        flex: 1,
        minWidth: 0,
        p: 0.5,
        textAlign: "left",
        font: "inherit",
        fontSize: "0.85rem",
        color: "text.primary",
        bgcolor: shown ? "background.default" : "transparent",
        borderLeft: "3px solid",
        borderLeftColor: shown ? "text.primary" : "transparent",
      }}
    >
      <Box component="span" sx={{ display: "flex", justifyContent: "space-between", gap: 1 }}>
        <Box component="span" sx={({ vars }) => ({ color: vars?.palette.compass.plum, fontWeight: 600 })}>
          {titleOf(count)}
        </Box>
        <span style={{ whiteSpace: "nowrap" }}>{of100(odds)}</span>
      </Box>
      <Box component="span" sx={{ display: "block", color: "text.secondary", fontSize: "0.78rem" }}>
        {root.pivots.map(({ price }) => priceText(price, market)).join(" \u2013 ")}; {"\u00d7"} {kill.side}{" "}
        {priceText(kill.price, market)}
        {parts === undefined ? "" : `; parts from the next at ${priceText(parts, market)}`}
      </Box>
      {(inside || also.length > 0) && (
        <Box component="span" sx={{ display: "block", color: "text.secondary", fontSize: "0.78rem" }}>
          {inside ? `Inside wave ${inside.join(" of ")} of the first count of the view. ` : ""}
          {alsoText(also)}
        </Box>
      )}
    </Box>
  );
}

function titleOf({ root }: Pick<SpanCount, "root">): string {
  const { title, labels } = PATTERNS[root.pattern];
  const open = inProgress(root);
  return `${capital(title)}, ${open === undefined ? "complete" : `wave ${labels[open]} in progress`}`;
}

const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);

/** Names of twins that are listed. */
const ALSO = 3;

function alsoText(also: SpanCount["also"]): string {
  if (also.length === 0) return "";
  const names = also.slice(0, ALSO).map(({ pattern }) => PATTERNS[pattern].title.toLowerCase());
  return `Also labelled ${names.join("; ")}${also.length > ALSO ? ` and ${also.length - ALSO} more` : ""}.`;
}

/** "31 in 100", never more sure than it is: below one and above 99 is said so. */
function of100(odds: number): string {
  const whole = Math.round(100 * odds);
  return whole < 1 ? "below 1 in 100" : whole > 99 ? "above 99 in 100" : `${whole} in 100`;
}

/** What the evidence comes to, before any single count is read. */
function separationText(span: Span, market: MarketFacts): string {
  const { alike, at, noneFirst } = separationOf(span);
  if (alike === 0) return "No count: the turns are no better explained than those of a walk.";
  const null_ = noneFirst ? " That none of them holds is likelier than the first." : "";
  if (alike === 1) return `The first is likelier than the others.${null_}`;
  const parting = at === undefined ? "" : `: the first two part at ${priceText(at, market)}`;
  return `${countText(alike, "reading")}, not separated${parting}.${null_}`;
}
