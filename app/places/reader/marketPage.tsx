import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { isReader } from "#core/readers/roles";
import { sightOf } from "../../../server/accounts/plans.ts";
import { readOnce } from "../../../server/database/readOnce.ts";
import { marketSaid } from "../../../server/readers/marketSaid.ts";
import { removeAlert } from "../../../server/alerts/alerts.ts";
import { pricesWaitedFor, waitForPrice } from "../../../server/alerts/ownPrices.ts";
import { answer, attempt, personIn, readForm, textField } from "../../access.server.ts";
import { LevelTable } from "../../parts/LevelTable.tsx";
import { useTimes } from "../../parts/useTimes.ts";
import { CallList, ChangeList } from "./CallList.tsx";
import { EditionList } from "./EditionList.tsx";
import { failureText } from "../../parts/post.ts";
import { PriceWatch } from "./PriceWatch.tsx";
import { ReaderColumns } from "./ReaderColumns.tsx";
import type { Route } from "./+types/marketPage.ts";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${(loaderData as { market?: { name: string } } | undefined)?.market?.name ?? "Market"} - Even Compass` },
];

/** Those who are shown the same are sent the same page. */
export const handle = { isForMany: true };

export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const person = personIn(context);
    const waiting = !isReader(person) ? undefined : await pricesWaitedFor(person.id, params.market);
    const sight = await sightOf(person);
    return {
      ...(await readOnce(["market", params.market, sight], () => marketSaid(params.market, sight))),
      waiting: waiting?.map(({ id, says }) => ({ id, says })),
    };
  });
}

export function action({ params, request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const [person, form] = [personIn(context), await readForm(request)];
    if (textField(form, "step") === "take back") {
      await removeAlert(textField(form, "alert"), person.id);
      return { said: "You are not told of it." };
    }
    await waitForPrice(person, params.market, textField(form, "price"));
    return { said: "You are told once, as your settings say, when price gets there." };
  });
}

/** Everything that was said of a market, and what became of it. */
export default function MarketPage({
  loaderData: { market, last, calls, changes, editions, waiting },
  actionData,
}: Route.ComponentProps) {
  const { moment } = useTimes();
  const [open, over] = [calls.filter(({ phase }) => phase !== "done"), calls.filter(({ phase }) => phase === "done")];
  const { horizons = [], levels = [] } = last?.section ?? {};
  return (
    <ReaderColumns>
      <Box>
        <Typography variant="h1">{market.name}</Typography>
        {!last && <Typography>Nothing that your plan shows was written of it yet.</Typography>}
        {last && (
          <Typography sx={{ mt: 0.5 }}>
            {horizons.map(({ horizon, direction }, i) => (
              <span key={horizon}>
                {i > 0 && "; "}
                {horizon} <strong>{direction}</strong>
              </span>
            ))}
            {horizons.length > 0 && ", as of "}
            {horizons.length === 0 && "Last in "}
            <MuiLink component={Link} to={`/outlooks/${last.edition.number}`}>
              edition {last.edition.number}
            </MuiLink>
            , {moment(last.edition.marketTime)}.
          </Typography>
        )}
        {levels.length > 0 && (
          <>
            <Typography variant="h2" sx={{ mt: 2.5 }}>
              Levels, as published then
            </Typography>
            <LevelTable lines={levels} decimals={market.decimals} />
          </>
        )}
        {waiting && <PriceWatch waiting={waiting} />}
        {actionData && (
          <Typography role={"failure" in actionData ? "alert" : "status"} sx={{ fontWeight: 600, mt: 1 }}>
            {"failure" in actionData ? failureText(actionData.failure) : actionData.said}
          </Typography>
        )}
        <Typography variant="h2" sx={{ mt: 3, mb: 0.5 }}>
          Everything that was said of it
        </Typography>
        <EditionList editions={editions} />
      </Box>
      <Box component="aside">
        <Typography variant="h2" sx={{ mb: 0.5, mt: { xs: 3, md: 0 } }}>
          In force
        </Typography>
        {open.length > 0 ? (
          <CallList calls={open} ofOneMarket />
        ) : (
          <Typography variant="body2">No call on it is open.</Typography>
        )}
        {over.length > 0 && (
          <>
            <Typography variant="h2" sx={{ mt: 3, mb: 0.5 }}>
              Over
            </Typography>
            <CallList calls={over} ofOneMarket />
          </>
        )}
        {changes.length > 0 && (
          <>
            <Typography variant="h2" sx={{ mt: 3, mb: 0.5 }}>
              What happened
            </Typography>
            <ChangeList changes={changes} ofOneMarket />
          </>
        )}
      </Box>
    </ReaderColumns>
  );
}
