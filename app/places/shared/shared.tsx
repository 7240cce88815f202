import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { siteAddress } from "../../../server/delivery/links.ts";
import { SHARED_SIZE, sharedPicture } from "../../../server/delivery/shared.ts";
import { mastheadOf } from "../../../server/publishing/deskSettings.ts";
import { answer } from "../../access.server.ts";
import { momentText } from "../../parts/times.ts";
import type { Route } from "./+types/shared.ts";

export const meta: Route.MetaFunction = ({ loaderData }) => {
  const shown = loaderData as { market: string; title: string; house: string; oembed: string } | undefined;
  return shown
    ? [
        { title: `${shown.market}: ${shown.title} - ${shown.house}` },
        { tagName: "link", rel: "alternate", type: "application/json+oembed", href: shown.oembed },
        { name: "robots", content: "noindex" },
      ]
    : [];
};

export function loader({ params, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const { edition, title, market, publishedAt, root } = await sharedPicture(params.token);
    const own = encodeURIComponent(`${siteAddress()}/shared/${params.token}`);
    return {
      ...{ edition, title, market, root, publishedAt: Date.parse(publishedAt) },
      ...{ house: (await mastheadOf()).name, oembed: `${siteAddress()}/oembed?url=${own}`, size: SHARED_SIZE },
    };
  });
}

/** One picture, shared with anybody: what it is of, when it was published, and the root it can be checked by. */
export default function Shared({ loaderData, params }: Route.ComponentProps) {
  const { edition, title, market, root, publishedAt, house, size } = loaderData;
  return (
    <Box component="main" id="content" sx={{ maxWidth: 920, mx: "auto", px: 2, py: 3 }}>
      <Typography variant="body2" color="text.secondary">
        {house}, edition {edition}, {momentText(publishedAt, "utc")} UTC
      </Typography>
      <Typography variant="h1" sx={{ mb: 1 }}>
        {title}
      </Typography>
      <Box
        component="img"
        src={`/shared/${params.token}/picture.png`}
        alt={`Chart of ${market}, as it was published`}
        width={size.width}
        height={size.height}
        sx={{ width: "100%", height: "auto", border: 1, borderColor: "divider", display: "block" }}
      />
      <Typography variant="caption" component="p" color="text.secondary" sx={{ mt: 0.5, overflowWrap: "anywhere" }}>
        {market}. Root of the edition&apos;s leaves {root}. Education, not advice.
      </Typography>
    </Box>
  );
}
