import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import type { PictureLayout } from "#core/edition/layouts";
import { rungText } from "#core/marks/wording";
import { SERIF } from "../../theme/theme.ts";
import type { ReadBlock } from "./readOutlook.server.ts";
import { SectionPicture } from "./SectionPicture.tsx";

interface Props {
  walk: Extract<ReadBlock, { kind: "walk" }>;
  layout: PictureLayout | undefined;
  pictureAt: (index: number) => string;
  voiceAt: (sha256: string) => string;
  drawings: Readonly<Record<number, string>> | undefined;
}

/**
 * The argument on a market in steps, from the highest rung to the trigger: one at a time, paged by links and by
 * swiping, without any script; on paper all of them as a strip.
 */
export function WalkView({ walk: { market, steps }, layout, pictureAt, voiceAt, drawings }: Props) {
  const nameOf = (i: number) => `step-${steps.at(i)?.index}`;
  return (
    <Box component="section" aria-label={`${market}, step by step`} sx={{ borderTop: "1.5px solid", mt: 3, pt: 2 }}>
      <Typography variant="h2">{market}, step by step</Typography>
      <Box
        tabIndex={0}
        role="group"
        aria-label="Steps"
        sx={{
          display: "flex",
          overflowX: "auto",
          scrollSnapType: "x mandatory",
          maxWidth: 780,
          gap: 3,
          "@media print": { display: "grid", gridTemplateColumns: "1fr 1fr", maxWidth: "none", overflow: "visible" },
        }}
      >
        {steps.map(({ market: facts, rung, text, voice, index, pictures }, i) => (
          <Box
            key={index}
            id={nameOf(i)}
            component="article"
            sx={{ flex: "0 0 100%", scrollSnapAlign: "start", minWidth: 0, "@media print": { breakInside: "avoid" } }}
          >
            <Box sx={{ display: "flex", gap: 2, alignItems: "baseline" }}>
              <Typography variant="h3">{rungText(rung)}</Typography>
              <Typography variant="body2" color="text.secondary">
                {i + 1} of {steps.length}
              </Typography>
              <Box component="nav" aria-label={`From step ${i + 1}`} sx={{ ml: "auto", display: "flex", gap: 2 }}>
                {i > 0 && <MuiLink href={`#${nameOf(i - 1)}`}>{rungText(steps[i - 1].rung)} before</MuiLink>}
                {i + 1 < steps.length && (
                  <MuiLink href={`#${nameOf(i + 1)}`}>{rungText(steps[i + 1].rung)} next</MuiLink>
                )}
              </Box>
            </Box>
            <SectionPicture
              drawing={drawings?.[index]}
              address={pictureAt(index)}
              market={facts}
              {...{ pictures, layout, rung }}
            />
            {voice && (
              <Box
                component="audio"
                controls
                preload="none"
                src={voiceAt(voice.sha256)}
                aria-label={`${rungText(rung)} said aloud, ${Math.round(voice.seconds)} s`}
                onEnded={() => sayNext(nameOf(i + 1))}
                data-no-print
                sx={{ width: "100%", maxWidth: 420, height: 40, mt: 0.5 }}
              />
            )}
            {text && (
              <Typography sx={{ fontFamily: SERIF, fontSize: "1.08rem", mt: 0.5, maxWidth: 720 }}>{text}</Typography>
            )}
          </Box>
        ))}
      </Box>
    </Box>
  );
}

/** Turns the page where a step was said to its end, and goes on with the next one. */
function sayNext(name: string): void {
  const next = document.getElementById(name);
  next?.scrollIntoView({ inline: "start", block: "nearest" });
  void next?.querySelector("audio")?.play();
}
