import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { Fragment, useEffect, useMemo, useState, useSyncExternalStore, type KeyboardEvent } from "react";
import { Link } from "react-router";
import { dismissalOf, markOf, waitingOf } from "#core/finding/answer";
import { bandText, countText, pipsText, priceText, rungText } from "#core/marks/wording";
import type { PlanArea, PlanLine } from "#core/round/dayPlan";
import { markedMarket } from "../../../server/desk/marks.ts";
import { findMarket } from "../../../server/bars/markets.ts";
import { dayPlanOf } from "../../../server/round/dayPlan.ts";
import { answer, personIn } from "../../access.server.ts";
import { useCommands } from "../../parts/keys.ts";
import { useWorth } from "../../parts/worth/useWorth.ts";
import { Page } from "../../parts/Page.tsx";
import { momentText } from "../../parts/times.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import { keptSteps } from "../descent/marks/keptSteps.ts";
import { MarkStore } from "../descent/marks/markStore.ts";
import { saveText } from "../descent/marks/saveText.ts";
import { clockText } from "../round/words.ts";
import { AreaRow } from "./AreaRow.tsx";
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

export default function DayPlanPage({ loaderData }: Route.ComponentProps) {
  return <Plan key={`${loaderData.plan.market.id} ${loaderData.plan.now}`} {...loaderData} />;
}

/**
 * One page for the quarter of an hour before the open: the few areas price may come to today, from high to low, each
 * opened to all that is in it, and what is offered taken over in one pass.
 */
function Plan({ account, plan, marks: first, marked }: Route.ComponentProps["loaderData"]) {
  const { market, price, atr, usual, areas, rest, within, further, events, now } = plan;
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
  const [at, setAt] = useState<string>();
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const [all, setAll] = useState(false);
  const worth = useWorth(market.id, opened.size > 0);
  const shown = useMemo(
    () => (all ? [...areas, ...rest].sort((a, b) => b.top - a.top || b.bottom - a.bottom) : areas),
    [all, areas, rest],
  );
  const waiting = useMemo(() => {
    const facts = [...areas, ...rest].flatMap(({ lines }) => lines.flatMap(({ fact }) => fact ?? []));
    return new Set(waitingOf(facts, marks).map(({ key }) => key));
  }, [areas, rest, marks]);
  const offered = (some: readonly PlanArea[]) =>
    some.flatMap(({ lines }) => lines.filter(({ key }) => waiting.has(key)));
  const open = offered(shown);
  const current = shown.find(({ key }) => key === at) ?? shown.find((area) => offered([area]).length > 0) ?? shown[0];
  const factsOf = (lines: readonly PlanLine[]) => lines.flatMap(({ fact }) => fact ?? []);
  const take = (lines: readonly PlanLine[]) =>
    lines.length > 0 && store.set(...factsOf(lines).map((fact) => markOf(fact, market.id, crypto.randomUUID())));
  const drop = (lines: readonly PlanLine[]) =>
    lines.length > 0 && store.set(...factsOf(lines).map((fact) => dismissalOf(fact, market.id, crypto.randomUUID())));
  const goTo = (area: PlanArea | undefined) => {
    if (!area) return;
    setAt(area.key);
    document.querySelector<HTMLElement>(`[data-area="${CSS.escape(area.key)}"]`)?.focus();
  };
  const answerCurrent = (how: typeof take) => {
    if (!current) return;
    how(offered([current]));
    // On to the next that waits, below and then above.
    const next = [...shown.slice(shown.indexOf(current) + 1), ...shown].find(
      (area) => area !== current && offered([area]).length > 0,
    );
    setAt(next?.key);
  };
  const toggle = (key: string) =>
    setOpened((before) => (before.has(key) ? without(before, key) : new Set([...before, key])));
  useCommands({
    acceptFact: () => answerCurrent(take),
    dismissFact: () => answerCurrent(drop),
    acceptAll: () => take(open),
    openArea: current ? () => toggle(current.key) : undefined,
    allAreas: rest.length > 0 ? () => setAll(!all) : undefined,
    takeBack: canUndo ? () => store.undo() : undefined,
  });
  const walk = (event: KeyboardEvent) => {
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (step === 0 || !current) return;
    event.preventDefault();
    goTo(shown[shown.indexOf(current) + step]);
  };
  const below = price === undefined ? -1 : shown.findIndex(({ top }) => top < price);
  return (
    <Page
      aside={
        <Box sx={{ position: "sticky", top: 0 }}>
          <Typography variant="h3">In one pass</Typography>
          <Typography variant="body2">{countText(open.length, "proposal")} in these areas.</Typography>
          <Box sx={{ display: "flex", gap: 1, alignItems: "end", my: 1 }}>
            <Button variant="contained" disabled={open.length === 0} onClick={() => take(open)} title="4">
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
            Arrow keys go from area to area, O opens one. 1 accepts what is offered in it, 3 dismisses it, 4 accepts all
            that is shown.
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
          <Box sx={{ display: "flex", gap: 1.5, mt: 2, flexWrap: "wrap" }}>
            <MuiLink component={Link} to={`/descent/${market.id}`}>
              Descend
            </MuiLink>
            <MuiLink component={Link} to="/round">
              Round
            </MuiLink>
            <MuiLink component={Link} to={`/worth/${market.id}`}>
              What findings were worth
            </MuiLink>
            <MuiLink component={Link} to={`/seasons/${market.id}`}>
              Seasons
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
      {within.length > 0 && (
        <Typography variant="body2" sx={{ mb: 1 }}>
          Price is inside{" "}
          {within
            .slice(0, INSIDE)
            .map((line) => `${line.name}, ${line.rungs.map(rungText).join(", ")} (${bandText(line, market)})`)
            .join("; ")}
          {within.length > INSIDE ? ` and ${within.length - INSIDE} more` : ""}.
        </Typography>
      )}
      <Box component="ol" aria-label="From high to low" onKeyDown={walk} sx={{ listStyle: "none", p: 0, m: 0 }}>
        {shown.map((area, i) => (
          <Fragment key={area.key}>
            {i === below && price !== undefined && <PriceLine price={priceText(price, market)} />}
            <AreaRow
              area={area}
              price={price ?? 0}
              atr={atr}
              market={market}
              worth={worth}
              waiting={waiting}
              current={area === current}
              open={opened.has(area.key)}
              onOpen={() => toggle(area.key)}
              onAccept={take}
              onDismiss={drop}
              onFocus={() => setAt(area.key)}
            />
          </Fragment>
        ))}
        {below < 0 && price !== undefined && <PriceLine price={priceText(price, market)} />}
      </Box>
      <Box sx={{ display: "flex", gap: 1.5, alignItems: "baseline", mt: 1 }}>
        {rest.length > 0 && (
          <Button variant="text" sx={{ px: 0, minHeight: 24 }} onClick={() => setAll(!all)} title="A">
            {all ? "Only the few" : `${countText(rest.length, "more area")} within reach`}
          </Button>
        )}
        {further > 0 && (
          <Typography variant="body2" color="text.secondary">
            {countText(further, "line lies", "lines lie")} more than one and a half usual days away.
          </Typography>
        )}
      </Box>
    </Page>
  );
}

/** Wide bands that are named. */
const INSIDE = 3;

function without(keys: ReadonlySet<string>, key: string): ReadonlySet<string> {
  return new Set([...keys].filter((one) => one !== key));
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
