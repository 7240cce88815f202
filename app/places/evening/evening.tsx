import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { useSubmit } from "react-router";
import { EveningDto } from "#contracts/evening";
import { countText } from "#core/marks/wording";
import { listMarkets } from "../../../server/bars/markets.ts";
import { readClock } from "../../../server/clock.ts";
import { keepEvening } from "../../../server/round/evening.ts";
import { answer, attempt, personIn, readField, readForm } from "../../access.server.ts";
import { Page } from "../../parts/Page.tsx";
import { useMarketClock } from "../../parts/live.ts";
import { failureText } from "../../parts/post.ts";
import { momentText } from "../../parts/times.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import { EveningMarket, type MorningRemark } from "./EveningMarket.tsx";
import { useEvenings } from "./useEvenings.ts";
import type { Route } from "./+types/evening.ts";

export const meta: Route.MetaFunction = () => [{ title: "Evening list - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => ({
    account: personIn(context).id,
    clock: await readClock(),
    markets: (await listMarkets()).map(({ id, name }) => ({ id, name })),
  }));
}

export function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () => ({
    kept: await keepEvening(readField(await readForm(request), "evening", EveningDto), personIn(context).id),
  }));
}

/** Market by market: what died today, what formed, what stands for tomorrow; and a word for the morning. */
export default function Evening({ loaderData: { account, clock, markets }, actionData }: Route.ComponentProps) {
  const submit = useSubmit();
  const { now } = useMarketClock(clock);
  const { evenings, done } = useEvenings(markets, now);
  const [remarks, setRemarks] = useState<ReadonlyMap<string, MorningRemark>>(new Map());
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  const kept = actionData && "kept" in actionData;
  const changed = evenings.filter(({ died, formed }) => died.length + formed.length > 0).length;
  const keep = () => {
    const said = evenings.flatMap(({ market }) => {
      const one = remarks.get(market.id);
      return one && one.remark.trim() !== "" ? [{ market: market.id, ...one }] : [];
    });
    void submit({ evening: JSON.stringify({ remarks: said }) }, { method: "post" });
  };
  return (
    <Page>
      <PageTitle
        aside={
          <Box sx={{ display: "flex", gap: 1.5, alignItems: "center", flexWrap: "wrap" }}>
            <Typography variant="body2" color="text.secondary" role="status">
              {momentText(now, "utc")} UTC.{" "}
              {done < markets.length
                ? `${done} of ${countText(markets.length, "market")} read`
                : `${changed} of ${countText(markets.length, "market")} changed`}
            </Typography>
            <Button variant="contained" onClick={keep} disabled={remarks.size === 0}>
              Keep for the morning
            </Button>
          </Box>
        }
      >
        Evening list
      </PageTitle>
      <Typography sx={{ mb: 1.5, maxWidth: "66ch" }}>
        What is dead is struck off or drawn anew, what formed is taken over or not, what stands is there tomorrow. A
        word on a market stands in its row in the morning.
      </Typography>
      {failure && (
        <Typography role="alert" sx={{ fontWeight: 600 }}>
          {failureText(failure)}
        </Typography>
      )}
      {kept && <Typography role="status">Kept. The morning's round begins with it.</Typography>}
      {evenings.map((evening) => (
        <EveningMarket
          key={evening.market.id}
          account={account}
          evening={evening}
          remark={remarks.get(evening.market.id)}
          onRemark={(said) => setRemarks((before) => new Map(before).set(evening.market.id, said))}
        />
      ))}
    </Page>
  );
}
