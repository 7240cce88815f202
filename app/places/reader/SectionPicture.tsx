import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import type { MarketFacts } from "#core/marks/kind";
import { rungText } from "#core/marks/wording";
import { LAYOUTS, type PictureLayout } from "#core/edition/layouts";
import { PointedPicture } from "./PointedPicture.tsx";
import type { Place } from "./pointed.ts";
import type { PicturesSeen } from "../../../server/readers/seenPictures.ts";

interface Props {
  /** Address of the picture without its ending. */
  address: string;
  pictures: PicturesSeen;
  layout: PictureLayout | undefined;
  market: Pick<MarketFacts, "name">;
  rung: string;
  /** Where it can be pointed at: how its prices are written, and which were published. */
  reading?: { decimals: number; places: readonly Place[] } | undefined;
  /** The drawing itself, made for paper by the desk: it is printed as it is. */
  drawing?: string | undefined;
}

/** Narrower than this a picture is the one that was laid out for a phone. */
const PHONE = "(max-width: 599px)";

/** The picture of a chart, as it was laid out for the width it is looked at. */
export function SectionPicture({ address, pictures, layout, market, rung, reading, drawing }: Props) {
  const on = `${market.name} on the ${rungText(rung).toLowerCase()}`;
  const alt = `Chart of ${on}. Its prices stand in the table of levels.`;
  if (drawing !== undefined)
    return (
      <Box
        role="img"
        aria-label={alt}
        sx={{
          border: 1,
          borderColor: "divider",
          mt: 1,
          "& svg": { display: "block", maxWidth: "100%", height: "auto" },
        }}
        dangerouslySetInnerHTML={{ __html: withBox(drawing) }}
      />
    );
  const own = layout ?? "wide";
  const source = (of: PictureLayout) => {
    const digest = pictures[of];
    if (digest === undefined) return undefined;
    const [path, query] = address.split("?");
    const asked = new URLSearchParams(query);
    asked.set("layout", of);
    // Of what is not kept there is no digest.
    if (digest !== "") asked.set("v", digest.slice(0, 32));
    return `${path}.png?${asked}`;
  };
  const main = source(own);
  if (main === undefined) return <Typography variant="body2">Your plan shows no picture of this chart.</Typography>;
  const phone = layout === undefined ? source("phone") : undefined;
  const { width, height } = LAYOUTS[own];
  const image = (
    <picture>
      {phone && <source media={PHONE} srcSet={phone} width={LAYOUTS.phone.width} height={LAYOUTS.phone.height} />}
      <Box
        component="img"
        src={main}
        alt={alt}
        width={width}
        height={height}
        draggable={false}
        sx={({ vars }) => ({
          ...{ width: "100%", height: "auto", display: "block" },
          // A border would move what is pointed at.
          ...{ outline: `1px solid ${vars?.palette.divider}`, outlineOffset: "-1px" },
        })}
      />
    </picture>
  );
  const caption = (
    <>
      Price in ink, what we say of it in colour.{" "}
      {main.includes("v=") && <MuiLink href={`${address}.svg`}>As a drawing (SVG)</MuiLink>}
    </>
  );
  if (reading && main.includes("v="))
    return (
      <PointedPicture
        {...{ address, caption, rung }}
        market={reading}
        places={reading.places}
        layoutNow={() => layout ?? (window.matchMedia(PHONE).matches ? "phone" : "wide")}
      >
        {image}
      </PointedPicture>
    );
  return (
    <>
      <Box sx={{ mt: 1 }}>{image}</Box>
      <Typography variant="caption" color="text.secondary">
        {caption}
      </Typography>
    </>
  );
}

/** A drawing that grows and shrinks with its place. */
const withBox = (svg: string) =>
  /^<svg[^>]*viewBox/.test(svg)
    ? svg
    : svg.replace(/^<svg([^>]*?)width="(\d+)" height="(\d+)"/, '<svg$1width="$2" height="$3" viewBox="0 0 $2 $3"');
