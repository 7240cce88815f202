import type { MarketFacts } from "#core/marks/kind";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { Fragment, useEffect, useMemo, useState, useSyncExternalStore, type KeyboardEvent } from "react";
import { Link } from "react-router";
import { dismissalOf, markOf, waitingOf } from "#core/finding/answer";
import type { Found } from "#core/finding/found";
import { countText, pipsText, priceText, rungText } from "#core/marks/wording";
import { bandText } from "#core/marks/wording";
import type { PlanLine } from "#core/round/dayPlan";
import { markedMarket } from "../../../server/desk/marks.ts";
import { findMarket } from "../../../server/bars/markets.ts";
import { dayPlanOf } from "../../../server/round/dayPlan.ts";
import { answer, personIn } from "../../access.server.ts";
import { useCommands } from "../../parts/keys.ts";
import { Page } from "../../parts/Page.tsx";
import { momentText } from "../../parts/times.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import { keptSteps } from "../descent/marks/keptSteps.ts";
import { MarkStore } from "../descent/marks/markStore.ts";
import { saveText } from "../descent/marks/saveText.ts";
import { clockText } from "../round/words.ts";
import type { Route } from "./+types/dayPlan.ts";

type Titled = { plan?: { market: { name: string } } } | undefined;

export const meta: Route.MetaFunction = ({ loaderData }) => [
  {
    title: `Day plan, ${(loaderData as Titled)?.plan?.market.name ?? ""} - Even Compass`,
  },
];

export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const { id } = personIn(context);
    await findMarket(params.market);
    const marked = await markedMarket(params.market);
    return { account: id, plan: await dayPlanOf(params.market, id), ...marked };
  });
}

const GRADE = 60;

export default function DayPlanPage({ loaderData }: Route.ComponentProps) {
  return <Plan key={`${loaderData.plan.market.id} ${loaderData.plan.now}`} {...loaderData} />;
}

/**
 * One page for the quarter of an hour before the open: everything price may come to today, from high to low, taken over
 * by grade in one pass.
 */
function Plan({ account, plan, marks: first, marked }: Route.ComponentProps["loaderData"]) {
  const { market, price, atr, usual, lines, further, events, now } = plan;
  const [store] = useState(
    () =>
      new MarkStore(
        market.id,
        { marks: first, marked },
        typeof indexedDB === "undefined" ? undefined : keptSteps(account, market.id),
      ),
  );
  useEffect(() => void store.restore(), [store]);
  const { marks, save, canUndo } = useSyncExternalStore(store.subscribe, store.getSnapshot, store.getSnapshot);
  const [grade, setGrade] = useState(GRADE);
  const [at, setAt] = useState<string>();
  const waiting = useMemo(
    () =>
      new Set(
        waitingOf(
          lines.flatMap(({ fact }) => fact ?? []),
          marks,
        ).map(({ key }) => key),
      ),
    [lines, marks],
  );
  // What is below the grade is out of the way; what is answered stays where it was.
  const shown = lines.filter((line) => !line.fact || !waiting.has(line.key) || (line.grade ?? 0) >= grade);
  const open = shown.filter(({ key, fact }) => fact && waiting.has(key));
  const hidden = lines.length - shown.length;
  const current = open.find(({ key }) => key === at) ?? open[0];
  const take = (facts: readonly Found[]) =>
    facts.length > 0 && store.set(...facts.map((fact) => markOf(fact, market.id, crypto.randomUUID())));
  const drop = (facts: readonly Found[]) =>
    facts.length > 0 && store.set(...facts.map((fact) => dismissalOf(fact, market.id, crypto.randomUUID())));
  const factsOf = (some: readonly PlanLine[]) => some.flatMap(({ fact }) => fact ?? []);
  const answerCurrent = (how: typeof take) => {
    if (!current) return;
    const i = open.indexOf(current);
    setAt((open[i + 1] ?? open[i - 1])?.key);
    how(factsOf([current]));
  };
  useCommands({
    acceptFact: () => answerCurrent(take),
    dismissFact: () => answerCurrent(drop),
    acceptAll: () => take(factsOf(open)),
    takeBack: canUndo ? () => store.undo() : undefined,
  });
  const walk = (event: KeyboardEvent) => {
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (step === 0 || !current) return;
    event.preventDefault();
    const next = open[open.indexOf(current) + step];
    if (!next) return;
    setAt(next.key);
    document.querySelector<HTMLElement>(`[data-line="${CSS.escape(next.key)}"]`)?.focus();
  };
  const below = price === undefined ? -1 : shown.findIndex(({ top }) => top < price);
  return (
    <Page
      aside={
        <Box sx={{ position: "sticky", top: 0 }}>
          <Typography variant="h3">In one pass</Typography>
          <Typography variant="body2">
            {countText(open.length, "proposal")} within reach of today
            {hidden > 0 ? `; ${hidden} below the grade are out of the way` : ""}.
          </Typography>
          <Box sx={{ display: "flex", gap: 1, alignItems: "end", my: 1 }}>
            <TextField
              label="Grade from"
              value={grade}
              onChange={(event) => setGrade(Math.max(0, Math.min(100, Math.round(Number(event.target.value)) || 0)))}
              slotProps={{ htmlInput: { inputMode: "numeric" } }}
              sx={{ width: 90 }}
            />
            <Button variant="contained" disabled={open.length === 0} onClick={() => take(factsOf(open))} title="4">
              Accept {open.length}
            </Button>
            <Button disabled={!canUndo} onClick={() => store.undo()} title="Ctrl Z">
              Undo
            </Button>
          </Box>
          <Typography variant="caption" color="text.secondary" role="status" component="p">
            {saveText(save)}
          </Typography>
          <Typography variant="caption" color="text.secondary" component="p" sx={{ mt: 1 }}>
            Arrow keys go from proposal to proposal, 1 accepts, 3 dismisses, 4 accepts all from the grade on.
          </Typography>
          {events.length > 0 && (
            <>
              <Typography variant="h3" sx={{ mt: 2 }}>
                Today
              </Typography>
              {events.map(({ id, title, at: time, allDay, why }) => (
                <Typography key={id} variant="body2" color={!allDay && time < now ? "text.secondary" : "text.primary"}>
                  <strong>{allDay ? "All day" : clockText(time, now)}</strong> {title} ({why})
                </Typography>
              ))}
            </>
          )}
          <Box sx={{ display: "flex", gap: 1.5, mt: 2 }}>
            <MuiLink component={Link} to={`/descent/${market.id}`}>
              Descend
            </MuiLink>
            <MuiLink component={Link} to="/round">
              Round
            </MuiLink>
          </Box>
        </Box>
      }
    >
      <PageTitle
        aside={
          <Typography variant="body2" color="text.secondary">
            {momentText(now, "utc")} UTC
            {price === undefined ? "" : `; a usual day's range is ${pipsText(usual, market)}`}
          </Typography>
        }
      >
        Day plan, {market.name}
      </PageTitle>
      {price === undefined && (
        <Typography>This market has no bars on these rungs yet. Import some in the library.</Typography>
      )}
      <Box component="ol" aria-label="From high to low" onKeyDown={walk} sx={{ listStyle: "none", p: 0, m: 0 }}>
        {shown.map((line, i) => (
          <Fragment key={line.key}>
            {i === below && price !== undefined && <PriceLine price={priceText(price, market)} />}
            <Line
              line={line}
              price={price ?? 0}
              atr={atr}
              market={market}
              waiting={waiting.has(line.key)}
              current={line === current}
              onAccept={() => take(factsOf([line]))}
              onDismiss={() => drop(factsOf([line]))}
              onFocus={() => setAt(line.key)}
            />
          </Fragment>
        ))}
        {below < 0 && price !== undefined && <PriceLine price={priceText(price, market)} />}
      </Box>
      {further > 0 && (
        <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
          {countText(further, "line lies", "lines lie")} more than one and a half usual days away.
        </Typography>
      )}
    </Page>
  );
}

function PriceLine({ price }: { price: string }) {
  return (
    <Box
      component="li"
      sx={{
        borderTop: "2px solid",
        borderBottom: "2px solid",
        borderColor: "text.primary",
        py: 0.25,
        my: 0.25,
        fontWeight: 600,
      }}
    >
      Price {price}
    </Box>
  );
}

interface LineProps {
  line: PlanLine;
  price: number;
  atr: number;
  market: MarketFacts;
  waiting: boolean;
  current: boolean;
  onAccept(): void;
  onDismiss(): void;
  onFocus(): void;
}

function Line({
  line: { key, what, name, rungs, bottom, top, grade, fact },
  price,
  atr,
  market,
  waiting,
  current,
  onAccept,
  onDismiss,
  onFocus,
}: LineProps) {
  const distance = bottom > price ? bottom - price : top < price ? top - price : 0;
  const answered = fact && !waiting;
  return (
    <Box
      component="li"
      data-line={key}
      tabIndex={waiting ? (current ? 0 : -1) : undefined}
      onFocus={waiting ? onFocus : undefined}
      aria-current={current && waiting ? "true" : undefined}
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0, 1fr) 30px auto", md: "150px minmax(0, 1fr) 116px 44px 128px" },
        columnGap: 1.5,
        alignItems: "center",
        minHeight: 27,
        py: { xs: 0.5, md: 0 },
        borderBottom: 1,
        borderColor: "divider",
        borderLeft: "3px solid",
        borderLeftColor: current && waiting ? "text.primary" : "transparent",
        pl: 0.75,
        fontSize: "0.9rem",
        color: answered ? "text.secondary" : "text.primary",
        fontStyle: what === "proposal" && waiting ? "italic" : "normal",
        fontWeight: what === "area" ? 600 : 400,
      }}
    >
      <Box component="span" sx={{ fontStyle: "normal", gridRow: { xs: 1, md: "auto" } }}>
        {bandText({ bottom, top }, market)}
      </Box>
      <Box component="span" sx={{ gridRow: { xs: 2, md: "auto" } }}>
        {name}
        <Box
          component="span"
          sx={{ color: "text.secondary", fontSize: "0.82rem", fontStyle: "normal", fontWeight: 400 }}
        >
          {" "}
          {rungs.map(rungText).join(", ")}
        </Box>
      </Box>
      <Box
        component="span"
        sx={{
          ...{ textAlign: "right", fontStyle: "normal", color: "text.secondary", fontSize: "0.82rem" },
          ...{ gridRow: { xs: 1, md: "auto" }, gridColumn: { xs: "2 / 4", md: "auto" } },
        }}
      >
        {distance === 0
          ? "price is in it"
          : `${distance > 0 ? "\u2191" : "\u2193"} ` +
            (`${pipsText(distance, market)}` + `${atr > 0 ? `, ${(Math.abs(distance) / atr).toFixed(1)} ATR` : ""}`)}
      </Box>
      <Box component="span" sx={{ textAlign: "right", fontStyle: "normal", gridRow: { xs: 2, md: "auto" } }}>
        {grade === undefined ? "" : Math.round(grade)}
      </Box>
      <Box component="span" sx={{ whiteSpace: "nowrap", fontStyle: "normal", gridRow: { xs: 2, md: "auto" } }}>
        {waiting ? (
          <>
            <Button
              variant="text"
              tabIndex={-1}
              sx={{ py: 0, px: 0.5, minHeight: 24 }}
              onClick={onAccept}
              aria-label={`Accept ${name}`}
            >
              Accept
            </Button>
            <Button
              variant="text"
              tabIndex={-1}
              sx={{ py: 0, px: 0.5, minHeight: 24 }}
              onClick={onDismiss}
              aria-label={`Dismiss ${name}`}
            >
              Dismiss
            </Button>
          </>
        ) : answered ? (
          "answered"
        ) : what === "mark" ? (
          "stands"
        ) : (
          ""
        )}
      </Box>
    </Box>
  );
}
