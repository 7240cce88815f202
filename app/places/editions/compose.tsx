import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import MuiLink from "@mui/material/Link";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Link, redirect, useFetcher } from "react-router";
import {
  EDITION_KINDS,
  KIND_NAMES,
  marketsIn,
  marketsOf,
  voicesOf,
  type Block,
  type EditionKind,
} from "#core/edition/blocks";
import { typedByHand, withNumbersPutIn } from "#core/edition/checks";
import { sayWritten } from "#core/written/say";
import { factsOf, listMarkets } from "../../../server/bars/markets.ts";
import { rungSetsOf } from "../../../server/desk/rungSets.ts";
import { scenariosOf } from "../../../server/desk/scenarios.ts";
import { chipOptions, renewedBlocks } from "../../../server/publishing/chips.ts";
import { argumentOf } from "../../../server/publishing/argument.ts";
import { beforePublishing } from "../../../server/publishing/before.ts";
import { findDraft } from "../../../server/publishing/drafts.ts";
import { filledBlocks } from "../../../server/publishing/filled.ts";
import { nameOf } from "../../../server/accounts/accounts.ts";
import { composeAll } from "../../../server/publishing/freeze.ts";
import { lacksOf } from "../../../server/publishing/publishable.ts";
import { publish } from "../../../server/publishing/publish.ts";
import { deskSettings } from "../../../server/publishing/deskSettings.ts";
import { isApproved, readDraft, READING_STEPS } from "../../../server/publishing/reading.ts";
import { sinceLast } from "../../../server/publishing/sinceLast.ts";
import { keepBack, letGoOut } from "../../../server/publishing/schedule.ts";
import { readClock } from "../../../server/clock.ts";
import { publicWords } from "../../../server/publishing/section.ts";
import { answer, attempt, personIn, readForm, textField } from "../../access.server.ts";
import { Page } from "../../parts/Page.tsx";
import { failureText, type FailureBody } from "../../parts/post.ts";
import { utcText } from "../../parts/times.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import { AddBlock } from "./AddBlock.tsx";
import { BlockList } from "./BlockList.tsx";
import { GoingOut } from "./GoingOut.tsx";
import { PublicList } from "./PublicList.tsx";
import { useAutosave } from "./useAutosave.ts";
import type { Route } from "./+types/compose.ts";

export const meta: Route.MetaFunction = () => [{ title: "Compose - Even Compass" }];

export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const draft = await findDraft(params.draft);
    if (draft.published !== null) throw redirect(`/outlooks/${draft.published}`);
    const markets = await listMarkets();
    const { id, title, kind, version } = draft;
    const sections = await composeAll(draft);
    const { chosen } = await rungSetsOf(personIn(context).id);
    const filled = await filledBlocks(draft, sections);
    const { now } = await readClock();
    const isUnread = (await deskSettings()).reading && !isApproved(draft);
    return {
      // What was put in from the desk says what the desk says now.
      draft: { id, title, kind, blocks: renewedBlocks(draft.blocks, sections), version },
      corrects: draft.corrects,
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
      levels: Object.fromEntries(marketsOf(draft.blocks).map((block, i) => [block.id, sections[i].levels])),
      argument: Object.fromEntries(
        await Promise.all(
          marketsIn(draft.blocks).map(async (market) => [market, await argumentOf(market, draft.accountId)] as const),
        ),
      ),
      since: await sinceLast(draft.blocks, sections),
      chips: sections.flatMap(chipOptions),
      filled,
      before: await beforePublishing(draft, sections, filled),
      lacks: [
        ...lacksOf(draft, sections, now).map(({ sentence }) => sentence),
        ...(isUnread ? ["A colleague reads it first."] : []),
      ],
      public: sections.map(publicWords),
      goingOut: {
        reading: draft.reading ?? null,
        wanted: (await deskSettings()).reading,
        goesOut: draft.goesOut ?? null,
        now,
      },
      colleague: draft.accountId === personIn(context).id ? "" : await nameOf(draft.accountId),
    };
  });
}

export function action({ params, request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const form = await readForm(request);
    const [id, person] = [params.draft, personIn(context)];
    const version = Number(textField(form, "version"));
    const step = textField(form, "step");
    const reading = READING_STEPS.find((one) => one === step);
    if (reading) await readDraft(id, reading, person, version, textField(form, "words"));
    else if (step === "later") await letGoOut(id, whenOf(form), person);
    else if (step === "back to hand") await keepBack(id);
    else {
      const number = await publish(id, person, { another: textField(form, "another") === "yes" });
      throw redirect(`/outlooks/${number}`);
    }
    return {};
  });
}

/** Market time in UTC as a form has it, or a market that opens. */
function whenOf(form: FormData): { at: number } | { market: string } {
  const market = textField(form, "open");
  return market === "" ? { at: Date.parse(`${textField(form, "at")}Z`) } : { market };
}

export default function Compose({
  loaderData: {
    draft,
    rungs,
    markets,
    levels,
    since,
    chips,
    argument,
    filled,
    corrects,
    before,
    lacks,
    public: becoming,
    colleague,
    goingOut,
  },
}: Route.ComponentProps) {
  const [title, setTitle] = useState(draft.title);
  const [kind, setKind] = useState<EditionKind>(draft.kind);
  const [blocks, setBlocks] = useState<Block[]>(draft.blocks);
  const [taken, setTaken] = useState(0);
  const content = { title, kind, blocks };
  const { state, sentence, pictures, version } = useAutosave(draft.id, draft.version, content, (merged) => {
    setTitle(merged.title);
    setKind(merged.kind);
    setBlocks([...merged.blocks]);
    setTaken((before) => before + 1);
  });
  const here = [...new Set(marketsOf(blocks).map(({ market }) => market))].flatMap((id) => {
    const found = markets.find(({ facts }) => facts.id === id);
    return found ? [{ id, name: found.facts.name }] : [];
  });
  const fetcher = useFetcher<{ failure?: FailureBody }>();
  const failure = fetcher.data?.failure;
  const aside = (
    <>
      <Typography variant="h2">Publishing</Typography>
      <Typography variant="body2" sx={{ my: 1 }}>
        Words, levels, pictures, scenarios and the bars they were made from are frozen and entered in the record.
        Scenarios are then followed from the bars.
      </Typography>
      {before.length + lacks.length > 0 && (
        <Box component="section" aria-label="Before it goes out" sx={{ mb: 1.5 }}>
          <Typography variant="h3">Before it goes out</Typography>
          {lacks.length > 0 && (
            <Box component="ul" aria-label="What stops it" sx={{ m: 0, pl: 0, listStyle: "none" }}>
              {lacks.map((text) => (
                <Typography key={text} component="li" variant="body2" sx={{ fontWeight: 600 }}>
                  {"\u00d7"} {text}
                </Typography>
              ))}
            </Box>
          )}
          <Box component="ul" sx={{ m: 0, pl: 2.25 }}>
            {before.map((text) => (
              <Typography key={text} component="li" variant="body2">
                {text}
              </Typography>
            ))}
          </Box>
          {typedByHand(blocks, chips) > 0 && (
            <Button
              variant="outlined"
              size="small"
              onClick={() => {
                setBlocks(withNumbersPutIn(blocks, chips));
                setTaken(taken + 1);
              }}
            >
              Put the typed numbers in as the desk's
            </Button>
          )}
        </Box>
      )}
      <PublicList sections={becoming} spoken={voicesOf(blocks).length} />
      <Typography variant="body2" sx={{ mb: 1.5 }}>
        <MuiLink component={Link} to={`/editions/${draft.id}/previews`}>
          As readers will see it
        </MuiLink>
        , plan by plan, on a page, a phone, paper and as mail.
      </Typography>
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
      <GoingOut
        {...goingOut}
        version={version}
        own={colleague === ""}
        markets={here}
        fetcher={fetcher}
        disabled={state !== "saved" || fetcher.state !== "idle"}
      />
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
      {corrects && (
        <Typography sx={{ mb: 1.5 }}>
          {BEGINS[corrects.how]} Edition {corrects.number} stays as it was published, with this beside it.
        </Typography>
      )}
      <Box sx={{ display: "grid", gridTemplateColumns: "minmax(0, 1fr) 150px", gap: 2 }}>
        <TextField
          label="Title"
          value={title}
          onChange={(event) => setTitle(event.target.value)}
          error={!!failure?.fields?.title}
          helperText={failure?.fields?.title}
          slotProps={{ htmlInput: { maxLength: 200 } }}
        />
        <TextField select label="Kind" value={kind} onChange={({ target: { value } }) => setKind(value as EditionKind)}>
          {KIND_NAMES.map((one) => (
            <MenuItem key={one} value={one}>
              {EDITION_KINDS[one].name}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      <BlockList
        blocks={blocks}
        {...{ markets, rungs, filled, levels, since, chips }}
        argumentOf={argument}
        voiceAddress={`/editions/${draft.id}/voice`}
        taken={taken}
        onTaken={() => setTaken(taken + 1)}
        pictureOf={(i) => pictures.at(i) && `/editions/${draft.id}/picture/${i}?of=${encodeURIComponent(pictures[i])}`}
        onChange={setBlocks}
      />
      <AddBlock kind={kind} markets={markets} onAdd={(block) => setBlocks(placed(blocks, block))} />
    </Page>
  );
}

const BEGINS = {
  correction: "Write its words as they should be: readers see both, and the difference.",
  withdrawal: "Say why it is taken back: its calls go on being followed as they were made.",
};

/** A new block goes before the notice that the edition ends with. */
function placed(blocks: readonly Block[], block: Block): Block[] {
  const at = blocks.at(-1)?.kind === "risk" ? blocks.length - 1 : blocks.length;
  return [...blocks.slice(0, at), block, ...blocks.slice(at)];
}
