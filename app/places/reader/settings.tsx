import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import NativeSelect from "@mui/material/NativeSelect";
import Typography from "@mui/material/Typography";
import { Form, Link } from "react-router";
import { EDITION_KINDS, KIND_NAMES } from "#core/edition/blocks";
import { MOMENT_NAMES, MOMENTS } from "#core/readers/choices";
import { isReader } from "#core/readers/roles";
import { sightOf } from "../../../server/accounts/plans.ts";
import { isStandIn } from "../../../server/accounts/till.ts";
import { tokensOf } from "../../../server/accounts/tokens.ts";
import { hooksOf } from "../../../server/delivery/hooks.ts";
import { devicesOf, pushKeys } from "../../../server/delivery/push.ts";
import { readSettings } from "../../../server/settings.ts";
import { choicesOf } from "../../../server/readers/choices.ts";
import { marketsSeen } from "../../../server/readers/marketSaid.ts";
import { answer, attempt, personIn, readForm, worksAtDesk } from "../../access.server.ts";
import { Choices } from "../../parts/Choices.tsx";
import { Outcome } from "../../parts/Outcome.tsx";
import { momentText } from "../../parts/times.ts";
import { DeviceList } from "./DeviceList.tsx";
import { HookList } from "./HookList.tsx";
import { takeStep } from "./settingSteps.server.ts";
import { ReadingFields, QuietFields, WayFields } from "./SettingFields.tsx";
import type { Route } from "./+types/settings.ts";

export const meta: Route.MetaFunction = () => [{ title: "Settings - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const person = personIn(context);
    const sight = await sightOf(person);
    return {
      choices: await choicesOf(person.id),
      kinds: KIND_NAMES.filter((kind) => sight.kinds.includes(kind)),
      markets: await marketsSeen(sight),
      zones: ["UTC", ...Intl.supportedValuesOf("timeZone")],
      isDesk: worksAtDesk(person),
      isReader: isReader(person),
      till: isStandIn() && isReader(person),
      tokens: [...(await tokensOf(person.id, "api")), ...(await tokensOf(person.id, "bars"))].map(
        ({ id, purpose, createdAt }) => ({ id, purpose, createdAt }),
      ),
      hooks: (await hooksOf(person.id)).map(({ id, address, createdAt }) => ({ id, address, createdAt })),
      devices: (await devicesOf(person.id)).map(({ id, name, createdAt }) => ({ id, name, createdAt })),
      pushKey: pushKeys().publicKey,
      standIn: readSettings().COMPASS_HOOKS?.split(",").at(0),
      feeds: (await tokensOf(person.id, "feed")).map(({ id, createdAt }) => ({ id, createdAt })),
    };
  });
}

export function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () =>
    takeStep(await readForm(request), personIn(context), request.headers.get("User-Agent") ?? ""),
  );
}

/** How pages are read, what comes by mail and when, and private addresses for programs that read feeds. */
export default function Settings({
  loaderData: {
    choices,
    kinds,
    markets,
    zones,
    feeds,
    hooks,
    devices,
    pushKey,
    standIn,
    tokens,
    isDesk,
    isReader: reads,
    till,
  },
  actionData,
}: Route.ComponentProps) {
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  const said = actionData && "said" in actionData ? actionData : undefined;
  return (
    <Box component="main" id="content" sx={{ maxWidth: 860, mx: "auto", px: 2, py: 3 }}>
      <Typography variant="h1">Settings</Typography>
      <Typography variant="body2" sx={{ mb: 1 }}>
        Password and sessions are with your{" "}
        <MuiLink component={Link} to="/account">
          account
        </MuiLink>
        .
        {till && (
          <>
            {" "}
            <MuiLink component={Link} to="/till">
              Plans that are for sale
            </MuiLink>
            .
          </>
        )}
      </Typography>
      <Outcome said={said?.said} failure={failure} />
      <Form method="post">
        <Typography variant="h2" sx={TITLE}>
          Reading
        </Typography>
        <ReadingFields choices={choices} zones={zones} />
        <Typography variant="h2" sx={TITLE}>
          What you are told
        </Typography>
        <WayFields choices={choices} />
        <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr 1fr" }, gap: 2 }}>
          <Choices
            name="kinds"
            title="Editions"
            of={kinds.map((kind) => [kind, EDITION_KINDS[kind].name])}
            chosen={choices.kinds}
          />
          <Choices
            name="moments"
            title="Of calls, at once"
            of={MOMENT_NAMES.map((name) => [name, MOMENTS[name].name])}
            chosen={choices.moments}
          />
          <Choices
            name="markets"
            title="Of these markets (none: of all)"
            of={markets.map(({ id, name }) => [id, name])}
            chosen={choices.markets}
          />
        </Box>
        <QuietFields choices={choices} />
        <Button type="submit" variant="contained" sx={{ mt: 2 }}>
          Save
        </Button>
      </Form>
      <Typography variant="h2" sx={TITLE}>
        Feeds
      </Typography>
      <Typography variant="body2" sx={{ maxWidth: 620 }}>
        A private address for programs that read feeds: behind it are outlooks.atom, outlooks.json and calendar.ics.
        Whoever has it sees what you see; it ends when you end it.
      </Typography>
      {said && "feed" in said && (
        <Typography component="p" sx={{ my: 1, fontFamily: "monospace", overflowWrap: "anywhere" }}>
          {said.feed}/outlooks.atom
        </Typography>
      )}
      {feeds.map(({ id, createdAt }) => (
        <Form method="post" key={id}>
          <input type="hidden" name="feed" value={id} />
          Made {momentText(createdAt, "utc")} UTC{" "}
          <Button type="submit" name="step" value="end feed" variant="text" aria-label={`End ${id.slice(0, 6)}`}>
            End it
          </Button>
        </Form>
      ))}
      <Form method="post">
        <Button type="submit" name="step" value="feed" variant="outlined" sx={{ mt: 1 }}>
          Make an address
        </Button>
      </Form>
      {reads && (
        <>
          <Typography variant="h2" sx={TITLE}>
            Notices
          </Typography>
          <DeviceList devices={devices} publicKey={pushKey} standIn={standIn !== undefined} />
          <Typography variant="h2" sx={TITLE}>
            Programs that are told
          </Typography>
          <HookList
            hooks={hooks}
            standIn={standIn}
            secret={said && "hookSecret" in said ? said.hookSecret : undefined}
          />
        </>
      )}
      <Typography variant="h2" sx={TITLE}>
        For programs
      </Typography>
      <Typography variant="body2" sx={{ maxWidth: 620 }}>
        Tokens for programs of your own: what they may ask stands in <a href="/api/openapi.json">one document</a>.
      </Typography>
      {said && "token" in said && (
        <Typography component="p" sx={{ my: 1, fontFamily: "monospace", overflowWrap: "anywhere" }}>
          {said.token}
        </Typography>
      )}
      {tokens.map(({ id, purpose, createdAt }) => (
        <Form method="post" key={id}>
          <input type="hidden" name="token" value={id} />
          {purpose === "bars" ? "Sends bars" : "Reads outlooks"}, made {momentText(createdAt, "utc")} UTC{" "}
          <Button type="submit" name="step" value="end token" variant="text" aria-label={`End ${id.slice(0, 6)}`}>
            End it
          </Button>
        </Form>
      ))}
      <Form method="post">
        <NativeSelect name="scope" inputProps={{ "aria-label": "What it is for" }} sx={{ mr: 1.5 }}>
          <option value="api">to read outlooks</option>
          {isDesk && <option value="bars">to send bars</option>}
        </NativeSelect>{" "}
        <Button type="submit" name="step" value="token" variant="outlined">
          Make a token
        </Button>
      </Form>
    </Box>
  );
}

const TITLE = { mt: 3, mb: 1, borderTop: "1.5px solid", borderColor: "text.primary", pt: 1 };
