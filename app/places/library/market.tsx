import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { Form, Link, redirect } from "react-router";
import { LARGEST_MARKS_FILE } from "#contracts/mark";
import { HolidaysDto, MarketDto } from "#contracts/market";
import { NO_TIES } from "#core/events/touches";
import { countText } from "#core/marks/wording";
import { formulaText } from "#core/series/formula";
import { formatDate, dayNumber } from "#core/time/dates";
import { hoursAt, nextClosures } from "#core/time/hoursNow";
import { listRestatements } from "../../../server/bars/changes.ts";
import { listImports } from "../../../server/intake/import.ts";
import { holdingsOf, layersOf } from "../../../server/bars/layers.ts";
import { calendarOf, findMarket, legsOf } from "../../../server/bars/markets.ts";
import { removeMarket } from "../../../server/bars/remove.ts";
import { addHolidays, saveMarket } from "../../../server/bars/settings.ts";
import { importMarks } from "../../../server/desk/markFile.ts";
import { marksOf } from "../../../server/desk/marks.ts";
import { Failure } from "../../../server/failure.ts";
import { readClock } from "../../../server/clock.ts";
import { rungSetsOf } from "../../../server/desk/rungSets.ts";
import { lengthOf } from "#core/marks/shown";
import { divides, formatTimeframe, parseTimeframe } from "#core/time/timeframe";
import { answer, attempt, personIn, readField, readForm } from "../../access.server.ts";
import { Page } from "../../parts/Page.tsx";
import { dateText } from "../../parts/times.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import { BarsHeld, type HeldBars } from "./BarsHeld.tsx";
import { hoursText } from "./hoursText.ts";
import { importLine, ImportList } from "./ImportList.tsx";
import { MarketForm } from "./MarketForm.tsx";
import { MarksFile } from "./MarksFile.tsx";
import { RestatementList } from "./RestatementList.tsx";
import { WeekOfSessions } from "./WeekOfSessions.tsx";
import type { Route } from "./+types/market.ts";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  {
    title:
      `${(loaderData as { market?: { name: string } } | undefined)?.market?.name ?? "Market"} - Library - ` +
      `Even Compass`,
  },
];

export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const market = await findMarket(params.market);
    const calendar = calendarOf(market);
    const { now } = await readClock();
    const legs = await legsOf(market);
    const { id, name, kind, tick, pip, pipName, decimals, formula, revision, ties } = market;
    const { chosen } = await rungSetsOf(personIn(context).id);
    const layers = formula
      ? await heldByLegs(market)
      : (await holdingsOf(id)).map(({ base, bars, from, to, bytes }): HeldBars => ({ base, bars, from, to, bytes }));
    return {
      market: {
        id,
        name,
        kind,
        tick,
        pip,
        pipName,
        decimals,
        calendar: market.calendar,
        revision,
        ties: ties ?? NO_TIES,
      },
      derived: formula && {
        says: formulaText(formula, (leg) => legs.find((one) => one.id === leg)?.name ?? leg),
        legs: legs.map((leg) => ({ id: leg.id, name: leg.name })),
      },
      held: layers,
      rungs: chosen.rungs.map(({ rung }) => rung).filter((rung) => layers.some(({ base }) => isMadeOf(base, rung))),
      marks: (await marksOf(id)).length,
      imports: (await listImports(id)).map((one) => importLine(one, name)),
      restatements: (await listRestatements(id)).map(({ id: key, cause, base, fromTime, toTime, bars, createdAt }) => ({
        id: key,
        cause,
        base,
        fromTime,
        toTime,
        bars,
        createdAt,
      })),
      hours: hoursText(hoursAt(now, calendar), market.calendar.zone, now),
      closures: nextClosures(calendar, formatDate(dayNumber(now)), 4),
      now,
    };
  });
}

/** Whether bars of a rung can be put together from those that are held: what has none is not offered. */
function isMadeOf(base: string, rung: string): boolean {
  const [held, wanted] = [parseTimeframe(base), parseTimeframe(rung)];
  return held !== undefined && wanted !== undefined && divides(held, wanted) && lengthOf(rung) >= lengthOf(base);
}

/** What a derived market's legs have in common; nothing of it is stored. */
async function heldByLegs(market: Awaited<ReturnType<typeof findMarket>>): Promise<HeldBars[]> {
  return (await layersOf(market)).map(({ base, series }) => ({
    base: formatTimeframe(base),
    bars: series.length,
    from: series.time[0],
    to: series.time[series.length - 1],
    bytes: 0,
  }));
}

export function action({ params, request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const form = await readForm(request);
    if (form.get("step") === "remove") {
      await removeMarket(params.market);
      throw redirect("/library");
    }
    if (form.get("step") === "holidays") {
      await addHolidays(params.market, readField(form, "holidays", HolidaysDto).dates);
      throw redirect(`/library/${params.market}`);
    }
    const file = form.get("marks");
    if (file !== null && typeof file !== "string") {
      if (file.size > LARGEST_MARKS_FILE)
        throw new Failure("too-large", "A file of marks has at most 8 MB.", {
          status: 413,
          kept: "Nothing was stored.",
        });
      return { marks: await importMarks(params.market, await file.text(), personIn(context).id) };
    }
    await saveMarket(params.market, readField(form, "market", MarketDto));
    return { saved: true };
  });
}

/** One market's bars, hours, imports and exports. */
export default function MarketPage({ loaderData, actionData }: Route.ComponentProps) {
  const { market, derived, held, rungs, marks, imports, restatements, hours, closures, now } = loaderData;
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  const report = actionData && "marks" in actionData ? actionData.marks : undefined;
  const aside = (
    <>
      <Typography variant="h2">Hours</Typography>
      <Typography sx={{ my: 1 }}>{hours}</Typography>
      <WeekOfSessions calendar={market.calendar} now={now} />
      {closures.length > 0 && (
        <Typography variant="body2" sx={{ mt: 1 }}>
          Next:{" "}
          {closures
            .map(({ date, closes }) => `${dateText(Date.parse(date))}${closes ? ` closes ${closes}` : " shut"}`)
            .join("; ")}
          .
        </Typography>
      )}
      {!derived && (
        <Box sx={{ mt: 3 }}>
          <ImportList imports={imports} />
        </Box>
      )}
      <RestatementList restatements={restatements} />
    </>
  );
  return (
    <Page aside={aside}>
      <PageTitle
        aside={
          <Button component={Link} to={`/descent/${market.id}`} variant="contained">
            Descend
          </Button>
        }
      >
        {market.name}
      </PageTitle>
      {derived && (
        <Typography sx={{ mb: 2, maxWidth: "70ch" }}>
          Made of others: {derived.says}. Opens and closes are exact. Highs and lows are bounds, as narrow as the finest
          bars that all legs have; before those begin they are made of longer bars and wider. Legs:{" "}
          {derived.legs.map(({ id, name }, i) => (
            <span key={id}>
              {i > 0 && ", "}
              <MuiLink component={Link} to={`/library/${id}`}>
                {name}
              </MuiLink>
            </span>
          ))}
          .
        </Typography>
      )}
      <BarsHeld market={market.id} held={held} rungs={rungs} derived={derived !== null} />
      <MarksFile
        market={market.id}
        says={countText(marks, "mark")}
        report={report}
        failure={failure?.code === "marks" || failure?.code === "too-large" ? failure : undefined}
      />
      <Typography variant="h2" sx={{ mt: 4, mb: 1.5 }}>
        Prices and hours
      </Typography>
      <MarketForm
        key={market.revision}
        market={market}
        derived={derived !== null}
        failure={failure?.code === "marks" ? undefined : failure}
        saved={!!actionData && "saved" in actionData}
      />
      <Form method="post">
        <Button type="submit" name="step" value="remove" variant="text" sx={{ mt: 3, ml: -0.6 }}>
          Remove this market
        </Button>
        <Typography variant="caption" color="text.secondary" component="p">
          Its bars and imports go with it. A market that marks, scenarios, drafts, editions or other markets need is
          kept.
        </Typography>
      </Form>
    </Page>
  );
}
