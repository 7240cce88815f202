import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Form } from "react-router";
import { countText, priceText, rungText } from "#core/marks/wording";
import { rewardToRisk } from "#core/round/setup";
import { rText } from "#core/scenarios/say";
import { pastRounds } from "../../../server/round/rounds.ts";
import { removeSetup, setupsOf, type NotedSetup } from "../../../server/round/setups.ts";
import { answer, attempt, personIn, readForm, textField } from "../../access.server.ts";
import { Page } from "../../parts/Page.tsx";
import { momentText } from "../../parts/times.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import { spanText } from "../../../chart/measure.ts";
import type { Route } from "./+types/history.ts";

export const meta: Route.MetaFunction = () => [{ title: "Past rounds - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const { id } = personIn(context);
    return { rounds: await pastRounds(id), setups: await setupsOf(id) };
  });
}

export function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    await removeSetup(textField(await readForm(request), "setup"), personIn(context).id);
    return {};
  });
}

/** Rounds and evenings that were, and what became of the setups that were not taken. */
export default function History({ loaderData: { rounds, setups } }: Route.ComponentProps) {
  return (
    <Page>
      <PageTitle>Past rounds</PageTitle>
      {setups.length > 0 && (
        <Box component="section" aria-label="Setups not taken" sx={{ mb: 3 }}>
          <Typography variant="h2">Setups not taken</Typography>
          {setups.map((setup) => (
            <SetupLine key={setup.id} setup={setup} />
          ))}
        </Box>
      )}
      {rounds.length === 0 && (
        <Typography color="text.secondary">No round was walked yet. Begin one on the board: G walks it.</Typography>
      )}
      {rounds.map(({ id, kind, startedAt, endedAt, summary, stops, looked, verdicts }) => (
        <Box
          key={id}
          component="section"
          aria-label={`${kind} of ${momentText(startedAt, "utc")}`}
          sx={{ borderTop: 1, borderColor: "divider", py: 1.25 }}
        >
          <Typography variant="h3">
            {kind === "evening" ? "Evening" : "Round"} of {momentText(startedAt, "utc")} UTC
          </Typography>
          <Typography variant="body2" color="text.secondary">
            {endedAt === null
              ? "Still on."
              : kind === "evening"
                ? ""
                : (stops > 0 ? `${looked} of ${countText(stops, "stop")} looked at, ` : "Left without an end, ") +
                  `${spanText(endedAt - startedAt)} by the market's clock.`}
          </Typography>
          {summary && <Typography sx={{ whiteSpace: "pre-line" }}>{summary}</Typography>}
          {verdicts.map(({ market, name, rung, verdict, remark, saidAt }) => (
            <Typography key={market} variant="body2">
              {name}, {rungText(rung)}: {verdict}
              {remark ? `, ${remark}` : ""} ({momentText(saidAt, "utc").slice(-5)})
            </Typography>
          ))}
        </Box>
      ))}
    </Page>
  );
}

const ENDS = {
  target: "reached its target",
  stopped: "was stopped",
  missed: "was missed: the next open left too little of it",
  open: "is still open",
};

function SetupLine({ setup }: { setup: NotedSetup }) {
  const { id, name, rung, what, reason, direction, entry, stop, target, notedAt, outcome } = setup;
  const ratio = rewardToRisk(setup);
  const end = ENDS[outcome.end];
  return (
    <Box sx={{ display: "flex", alignItems: "baseline", gap: 1, borderBottom: 1, borderColor: "divider", py: 0.5 }}>
      <Typography variant="body2" sx={{ flex: 1 }}>
        <strong>{name}</strong>, {rungText(rung)}, {what} {momentText(notedAt, "utc")} UTC: {reason}.{" "}
        {`${direction === "long" ? "Long" : "Short"} from ${priceText(entry, setup)}, `}
        {`stop ${priceText(stop, setup)}, target `}
        {priceText(target, setup)}
        {ratio === undefined ? "" : `, ${ratio.toFixed(2)} : 1`}. It {end}
        {outcome.at === undefined ? "" : ` ${momentText(outcome.at, "utc")} UTC`}: <strong>{rText(outcome.r)}</strong>.
        {outcome.ambiguous ? " It may have gone better within a bar; what counts is the worst of it." : ""}
      </Typography>
      <Form method="post">
        <input type="hidden" name="setup" value={id} />
        <Button type="submit" variant="text" aria-label={`Remove the setup on ${name}`}>
          Remove
        </Button>
      </Form>
    </Box>
  );
}
