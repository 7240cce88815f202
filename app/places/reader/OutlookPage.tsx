import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { EDITION_KINDS } from "#core/edition/blocks";
import type { PictureLayout } from "#core/edition/layouts";
import { momentText } from "../../parts/times.ts";
import { WordsView } from "../../parts/WordsView.tsx";
import { SERIF } from "../../theme/theme.ts";
import { CorrectionView } from "./CorrectionView.tsx";
import { FilledView } from "./FilledView.tsx";
import { OutlookSection } from "./OutlookSection.tsx";
import { WalkView } from "./WalkView.tsx";
import type { ReadBlock, ReadOutlook } from "./readOutlook.server.ts";

/** How its pictures are shown: for which width, and where they lie if not with the published edition. */
interface Shown {
  layout?: PictureLayout | undefined;
  pictureAt?: ((index: number) => string) | undefined;
  /** Where what is said aloud lies, if not with the published edition. */
  voiceAt?: ((sha256: string) => string) | undefined;
  /** For paper: the drawings themselves, by the number of their chart. */
  drawings?: Readonly<Record<number, string>> | undefined;
}

/** One outlook as subscribers read it: words and picture, the scenarios in figures, what became of them. */
export function OutlookPage({ outlook, ...shown }: Shown & { outlook: ReadOutlook }) {
  const { number, kind, title, author, publishedAt, marketTime, corrects, corrections, blocks, isWhole, check } =
    outlook;
  return (
    <>
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
        <BlockView key={i} {...{ block, outlook }} {...shown} />
      ))}
      {!isWhole && (
        <Typography variant="body2" sx={{ mt: 3 }}>
          Parts of this outlook are for other plans than yours. What you see is proven by the same root as the whole.
        </Typography>
      )}
      {check && <Frozen outlook={outlook} check={check} />}
    </>
  );
}

/** When it was frozen, and how that can be checked. */
function Frozen({ outlook, check }: { outlook: ReadOutlook; check: NonNullable<ReadOutlook["check"]> }) {
  const { number, publishedAt, inLeaves, sha256, isWhole } = outlook;
  return (
    <Box component="footer" sx={{ borderTop: "1.5px solid", borderColor: "text.primary", mt: 4, pt: 1 }}>
      <Typography variant="caption" component="p" color="text.secondary" sx={{ overflowWrap: "anywhere" }}>
        Frozen {new Date(publishedAt).toISOString()}. {inLeaves ? "Root of its leaves" : "SHA-256"} {sha256}.{" "}
        {check.holds ? check.why : `\u00d7 ${check.why}`}{" "}
        <MuiLink href={`/outlooks/${number}/edition.json`}>
          {isWhole ? "The frozen text" : "What you see of it, with proofs"}, to check it yourself
        </MuiLink>
        .
      </Typography>
    </Box>
  );
}

function BlockView({
  block,
  outlook,
  layout,
  pictureAt,
  voiceAt,
  drawings,
}: Shown & { block: ReadBlock; outlook: ReadOutlook }) {
  switch (block.kind) {
    case "words":
      return <WordsView words={block.words} />;
    case "market":
      return (
        <OutlookSection
          {...{ outlook, block, layout, drawings }}
          pictureAt={pictureAt ?? publishedAt(outlook.number)}
        />
      );
    case "walk":
      return (
        <WalkView
          walk={block}
          {...{ layout, drawings }}
          pictureAt={pictureAt ?? publishedAt(outlook.number)}
          voiceAt={voiceAt ?? ((sha256) => `/outlooks/${outlook.number}/voice/${sha256}`)}
        />
      );
    case "question":
      return (
        <Box component="section" aria-label="A reader asks" sx={{ mt: 2.5, maxWidth: 760 }}>
          <Typography variant="h2">A reader asks</Typography>
          <Box component="blockquote" sx={{ m: 0, my: 1, pl: 2, borderLeft: 2, borderColor: "divider" }}>
            <Typography sx={{ whiteSpace: "pre-line" }}>{block.asked}</Typography>
          </Box>
          <Typography sx={{ whiteSpace: "pre-line", fontFamily: SERIF, fontSize: "1.08rem" }}>
            {block.answer}
          </Typography>
        </Box>
      );
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

const publishedAt = (number: number) => (index: number) => `/outlooks/${number}/picture/${index}`;
