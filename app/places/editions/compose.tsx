import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useEffect, useRef, useState } from "react";
import { redirect, useFetcher, useRevalidator } from "react-router";
import type { DraftDto } from "#contracts/draft";
import { countText, rungText } from "#core/marks/wording";
import { sayWritten } from "#core/written/say";
import { factsOf, listMarkets } from "../../../server/bars/markets.ts";
import { rungSetsOf } from "../../../server/desk/rungSets.ts";
import { scenariosOf } from "../../../server/desk/scenarios.ts";
import { findDraft } from "../../../server/publishing/drafts.ts";
import { nameOf } from "../../../server/accounts/accounts.ts";
import { composeAll, publish } from "../../../server/publishing/publish.ts";
import { publicWords } from "../../../server/publishing/section.ts";
import { answer, attempt, personIn, readForm, textField } from "../../access.server.ts";
import { LevelTable } from "../../parts/LevelTable.tsx";
import { Page } from "../../parts/Page.tsx";
import { failureText, postJson, type FailureBody } from "../../parts/post.ts";
import { utcText } from "../../parts/times.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import { PublicList } from "./PublicList.tsx";
import type { Route } from "./+types/compose.ts";

export const meta: Route.MetaFunction = () => [{ title: "Compose - Even Compass" }];

export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const draft = await findDraft(params.draft);
    if (draft.published !== null) throw redirect(`/outlooks/${draft.published}`);
    const markets = await listMarkets();
    const { id, title, body, version } = draft;
    const sections = await composeAll(draft);
    const { chosen } = await rungSetsOf(personIn(context).id);
    return {
      draft: { id, title, body, sections: draft.sections, version },
      rungs: chosen.rungs.map(({ rung }) => rung),
      markets: await Promise.all(
        markets.map(async (market) => {
          const scenarios = (await scenariosOf(market.id)).map(({ scenario }) => scenario);
          return {
            facts: factsOf(market),
            scenarios: scenarios.map((scenario) => ({
              id: scenario.id,
              title: scenario.title,
              says: sayWritten(scenario, market, utcText),
            })),
          };
        }),
      ),
      levels: sections.map(({ levels: own }) => own),
      public: sections.map(publicWords),
      colleague: draft.accountId === personIn(context).id ? "" : await nameOf(draft.accountId),
    };
  });
}

export function action({ params, request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const another = textField(await readForm(request), "another") === "yes";
    const number = await publish(params.draft, personIn(context), { another });
    throw redirect(`/outlooks/${number}`);
  });
}

type Section = DraftDto["sections"][number];
/** As many degrees as there are: nothing is left out. */
const ALL_DEGREES = 9;

export default function Compose({
  loaderData: { draft, rungs, markets, levels, public: becoming, colleague },
}: Route.ComponentProps) {
  const [title, setTitle] = useState(draft.title);
  const [body, setBody] = useState(draft.body);
  const [sections, setSections] = useState<Section[]>(draft.sections);
  const [adding, setAdding] = useState(markets.at(0)?.facts.id ?? "");
  const { state, version, sentence, stored } = useAutosave(draft.id, draft.version, { title, body, sections });
  const fetcher = useFetcher<{ failure?: FailureBody }>();
  const failure = fetcher.data?.failure;
  const change = (i: number, part: Partial<Section>) =>
    setSections(sections.map((one, n) => (n === i ? { ...one, ...part } : one)));
  const aside = (
    <>
      <Typography variant="h2">Publishing</Typography>
      <Typography variant="body2" sx={{ my: 1 }}>
        Words, levels, pictures, scenarios and the bars they were made from are frozen and entered in the record.
        Scenarios are then followed from the bars.
      </Typography>
      <PublicList sections={becoming} />
      <Typography variant="body2" role="status" sx={{ mb: 1.5 }}>
        {sentence}
      </Typography>
      <fetcher.Form method="post">
        {colleague && (
          <FormControlLabel
            control={<Checkbox size="small" name="another" value="yes" />}
            label={`This is ${colleague}'s draft; I publish it`}
            sx={{ mb: 1 }}
          />
        )}
        <Button
          type="submit"
          variant="contained"
          size="medium"
          disabled={state !== "saved" || fetcher.state !== "idle"}
        >
          Publish
        </Button>
      </fetcher.Form>
      {failure && (
        <Typography role="alert" sx={{ mt: 1.5, fontWeight: 600 }}>
          {failureText(failure)}
        </Typography>
      )}
    </>
  );
  return (
    <Page aside={aside}>
      <PageTitle>Outlook</PageTitle>
      <TextField
        label="Title"
        value={title}
        onChange={(event) => setTitle(event.target.value)}
        error={!!failure?.fields?.title}
        helperText={failure?.fields?.title}
        slotProps={{ htmlInput: { maxLength: 200 } }}
        sx={{ mb: 2 }}
      />
      <TextField
        label="Words, a blank line between paragraphs"
        value={body}
        multiline
        minRows={5}
        onChange={(event) => setBody(event.target.value)}
        error={!!failure?.fields?.body}
        helperText={failure?.fields?.body}
        slotProps={{ htmlInput: { maxLength: 20000 } }}
      />
      {sections.map((section, i) => {
        const market = markets.find(({ facts }) => facts.id === section.market);
        if (!market) return null;
        return (
          <Box
            component="section"
            key={`${section.market} ${i}`}
            aria-label={market.facts.name}
            sx={{ borderTop: "1.5px solid", borderColor: "text.primary", mt: 3, pt: 1.5 }}
          >
            <Box sx={{ display: "flex", alignItems: "baseline", gap: 2, mb: 1 }}>
              <Typography variant="h2" sx={{ flex: 1 }}>
                {market.facts.name}
              </Typography>
              <TextField
                select
                label="Chart of the"
                value={section.rung}
                onChange={(event) => change(i, { rung: event.target.value })}
                sx={{ width: 130 }}
              >
                {[...new Set([...rungs, section.rung])].map((rung) => (
                  <MenuItem key={rung} value={rung}>
                    {rungText(rung)}
                  </MenuItem>
                ))}
              </TextField>
              <TextField
                select
                label="Waves"
                value={section.counts?.degrees ?? ALL_DEGREES}
                onChange={(event) =>
                  change(i, { counts: { alternates: true, ...section.counts, degrees: Number(event.target.value) } })
                }
                sx={{ width: 130 }}
              >
                {[1, 2, 3, ALL_DEGREES].map((degrees) => (
                  <MenuItem key={degrees} value={degrees}>
                    {degrees === ALL_DEGREES ? "as on the desk" : countText(degrees, "degree")}
                  </MenuItem>
                ))}
              </TextField>
              <FormControlLabel
                control={
                  <Checkbox
                    size="small"
                    checked={section.counts?.alternates ?? true}
                    onChange={(event) =>
                      change(i, {
                        counts: { degrees: ALL_DEGREES, ...section.counts, alternates: event.target.checked },
                      })
                    }
                  />
                }
                label="Alternates"
                sx={{ mr: 0 }}
              />
              <Button variant="text" onClick={() => setSections(sections.filter((_, n) => n !== i))}>
                Take out
              </Button>
            </Box>
            {i < stored && (
              <Box
                component="img"
                key={version}
                src={`/editions/${draft.id}/picture/${i}?version=${version}`}
                alt={`Chart of ${market.facts.name}, ${rungText(section.rung)}, as it will be frozen`}
                sx={{ width: "100%", aspectRatio: "860 / 460", border: 1, borderColor: "divider", display: "block" }}
              />
            )}
            {market.scenarios.length === 0 && (
              <Typography variant="body2">No scenario is written for this market yet.</Typography>
            )}
            {market.scenarios.map(({ id, title: name, says }) => (
              <FormControlLabel
                key={id}
                sx={{ alignItems: "flex-start", my: 0.5 }}
                control={
                  <Checkbox
                    size="small"
                    checked={section.scenarios.includes(id)}
                    onChange={(event) =>
                      change(i, {
                        scenarios: event.target.checked
                          ? [...section.scenarios, id]
                          : section.scenarios.filter((one) => one !== id),
                      })
                    }
                  />
                }
                label={
                  <Typography variant="body2" sx={{ pt: 1 }}>
                    <strong>{name}.</strong> {says}
                  </Typography>
                }
              />
            ))}
            {levels[i] && <LevelTable lines={levels[i]} decimals={market.facts.decimals} />}
          </Box>
        );
      })}
      {markets.length > 0 && (
        <Box sx={{ display: "flex", gap: 2, alignItems: "flex-end", mt: 3 }}>
          <TextField
            select
            label="Market"
            value={adding}
            onChange={(event) => setAdding(event.target.value)}
            sx={{ maxWidth: 240 }}
          >
            {markets.map(({ facts }) => (
              <MenuItem key={facts.id} value={facts.id}>
                {facts.name}
              </MenuItem>
            ))}
          </TextField>
          <Button
            onClick={() =>
              setSections([
                ...sections,
                {
                  market: adding,
                  rung: "P1D",
                  scenarios: markets.find(({ facts }) => facts.id === adding)?.scenarios.map(({ id }) => id) ?? [],
                },
              ])
            }
          >
            Add its section
          </Button>
        </Box>
      )}
    </Page>
  );
}

/** Saves what is on the page a moment after it stops changing; loads the page's tables anew once it is stored. */
function useAutosave(id: string, initial: number, content: Omit<DraftDto, "version">) {
  const [version, setVersion] = useState(initial);
  const [state, setState] = useState<"saved" | "changed" | "failed">("saved");
  const [sentence, setSentence] = useState("everything is saved");
  // How many sections the server knows: only those have a picture to ask for.
  const [sections, setSections] = useState(content.sections.length);
  const stored = useRef(JSON.stringify(content));
  const sending = useRef(false);
  const now = JSON.stringify(content);
  const { revalidate } = useRevalidator();
  useEffect(() => {
    if (now === stored.current) return;
    setState("changed");
    setSentence("saving ...");
    const timer = setTimeout(() => {
      if (sending.current) return;
      sending.current = true;
      void postJson<{ version: number }>(`/editions/${id}/save`, { ...(JSON.parse(now) as object), version }).then(
        (posted) => {
          sending.current = false;
          if (!posted.ok) {
            setState("failed");
            return setSentence(failureText(posted.failure));
          }
          stored.current = now;
          setVersion(posted.value.version);
          setSections((JSON.parse(now) as typeof content).sections.length);
          setState("saved");
          void revalidate();
          setSentence(`saved ${new Date().toTimeString().slice(0, 8)}`);
        },
      );
    }, 500);
    return () => clearTimeout(timer);
  }, [now, id, version, revalidate]);
  return { state, version, sentence, stored: sections };
}
