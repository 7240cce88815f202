import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { EDITION_KINDS } from "#core/edition/blocks";
import type { Changes } from "#core/edition/changes";
import type { Words } from "#core/edition/words";
import type { FrozenBlock } from "../../../server/publishing/content.ts";
import { correctionsOf } from "../../../server/publishing/corrections.ts";
import { findEdition, followUpsOf, notesOf, verifyEdition } from "../../../server/publishing/editions.ts";
import { leavesOf } from "../../../server/record/leaves.ts";
import { standingsOf } from "../../../server/watch/standing.ts";
import { answer } from "../../access.server.ts";
import { momentText } from "../../parts/times.ts";
import { WordsView } from "../../parts/WordsView.tsx";
import { CorrectionView } from "./CorrectionView.tsx";
import { FilledView } from "./FilledView.tsx";
import { OutlookSection, type ReadSection } from "./OutlookSection.tsx";
import type { Route } from "./+types/outlook.ts";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${(loaderData as { title?: string } | undefined)?.title ?? "Outlook"} - Even Compass` },
];

export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const { edition, content } = await findEdition(params.number);
    const { number, kind, title, author, publishedBy, publishedAt, marketTime, blocks } = content;
    let pictures = 0;
    return {
      number,
      kind,
      title,
      author: publishedBy === undefined ? author : `${author}, published by ${publishedBy}`,
      publishedAt: Date.parse(publishedAt),
      marketTime: Date.parse(marketTime),
      sha256: edition.sha256,
      inLeaves: leavesOf(edition.canonical) !== undefined,
      check: await verifyEdition(number),
      followUps: await followUpsOf(number),
      notes: await notesOf(number),
      standings: await standingsOf(number),
      corrects: content.corrects,
      corrections: await correctionsOf(number, content),
      blocks: blocks.map((block): ReadBlock => {
        if (block.kind !== "market") return block;
        const { market, rung, levels, scenarios, bars, horizons = [] } = block.section;
        const section = { market, rung, levels, scenarios, horizons, close: bars.at(-1)?.close };
        return { kind: "market", index: pictures++, section, words: block.words, changed: block.changed };
      }),
    };
  });
}

/** A block as it is sent to a reader's page: of a market without the bars it was drawn from. */
export type ReadBlock =
  | Exclude<FrozenBlock, { kind: "market" }>
  | { kind: "market"; index: number; section: ReadSection; words: Words | undefined; changed: Changes | undefined };

/** One outlook as subscribers read it: words and picture, the scenarios in figures, what became of them. */
export default function Outlook({ loaderData }: Route.ComponentProps) {
  const {
    number,
    kind,
    title,
    author,
    publishedAt,
    marketTime,
    sha256,
    inLeaves,
    check,
    blocks,
    corrects,
    corrections,
    ...became
  } = loaderData;
  return (
    <Box component="main" id="content" sx={{ maxWidth: 1160, mx: "auto", px: { xs: 2, md: 3 }, py: 3 }}>
      <Typography variant="body2" color="text.secondary">
        {`${EDITION_KINDS[kind].name}, edition ${number}, ${momentText(publishedAt, "utc")} UTC, by ${author}. `}
        {`Market time ${momentText(marketTime, "utc")} `}
        UTC.
      </Typography>
      <Typography variant="h1" sx={{ fontSize: { xs: "1.7rem", md: "2.2rem" }, maxWidth: 820, mt: 0.5, mb: 1.5 }}>
        {title}
      </Typography>
      {corrects && (
        <Typography sx={{ mb: 1.5 }}>
          {corrects.how === "withdrawal"
            ? "This withdraws "
            : corrects.small
              ? "A slip of the pen in "
              : "This corrects "}
          <MuiLink href={`/outlooks/${corrects.number}`}>edition {corrects.number}</MuiLink>, which stays as it was
          published.
        </Typography>
      )}
      {corrections.map((correction) => (
        <CorrectionView key={correction.number} correction={correction} />
      ))}
      {blocks.map((block, i) => (
        <BlockView key={i} block={block} number={number} {...became} />
      ))}
      <Box component="footer" sx={{ borderTop: "1.5px solid", borderColor: "text.primary", mt: 4, pt: 1 }}>
        <Typography variant="caption" component="p" color="text.secondary" sx={{ overflowWrap: "anywhere" }}>
          Frozen {new Date(publishedAt).toISOString()}. {inLeaves ? "Root of its leaves" : "SHA-256"} {sha256}.{" "}
          {check.holds ? check.why : `\u00d7 ${check.why}`}{" "}
          <MuiLink href={`/outlooks/${number}/edition.json`}>The frozen text, to check it yourself</MuiLink>.
        </Typography>
      </Box>
    </Box>
  );
}

type Became = Pick<Route.ComponentProps["loaderData"], "followUps" | "notes" | "standings">;

function BlockView({ block, number, ...became }: { block: ReadBlock; number: number } & Became) {
  switch (block.kind) {
    case "words":
      return <WordsView words={block.words} />;
    case "market":
      return <OutlookSection number={number} block={block} {...became} />;
    case "risk":
      return (
        <Typography variant="body2" color="text.secondary" sx={{ mt: 3, maxWidth: 760 }} role="note">
          {block.text}
        </Typography>
      );
    default:
      return <FilledView block={block} />;
  }
}
