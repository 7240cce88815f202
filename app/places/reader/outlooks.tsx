import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { EDITION_KINDS } from "#core/edition/blocks";
import { sightOf } from "../../../server/accounts/plans.ts";
import { readOnce } from "../../../server/database/readOnce.ts";
import { frontSeen, type Lead } from "../../../server/readers/front.ts";
import { answer, personIn } from "../../access.server.ts";
import { useTimes } from "../../parts/useTimes.ts";
import { SERIF } from "../../theme/theme.ts";
import { CallList, ChangeList } from "./CallList.tsx";
import { EditionList } from "./EditionList.tsx";
import { ReaderColumns } from "./ReaderColumns.tsx";
import { SectionPicture } from "./SectionPicture.tsx";
import type { Route } from "./+types/outlooks.ts";

export const meta: Route.MetaFunction = () => [{ title: "Outlooks - Even Compass" }];

/** Those who are shown the same are sent the same page. */
export const handle = { isForMany: true };

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const sight = await sightOf(personIn(context));
    return readOnce(["front", sight], () => frontSeen(sight));
  });
}

/** The front page: the newest, what is in force with the price that proves it wrong, and what became of it lately. */
export default function Outlooks({
  loaderData: { lead, earlier, showsCalls, inForce, changed },
}: Route.ComponentProps) {
  return (
    <ReaderColumns>
      <Box>{lead ? <LeadView lead={lead} /> : <Nothing hasLater={earlier.length > 0} />}</Box>
      <Box component="aside" sx={{ mt: { xs: 3, md: 0 }, gridRow: { md: "1 / span 2" }, gridColumn: { md: 2 } }}>
        <Typography variant="h2" sx={{ mb: 0.5 }}>
          In force
        </Typography>
        {inForce.length > 0 ? (
          <CallList calls={inForce} />
        ) : (
          <Typography variant="body2">{showsCalls ? "No call is open." : FOR_MEMBERS}</Typography>
        )}
        <Typography variant="h2" sx={{ mt: 3, mb: 0.5 }}>
          What changed
        </Typography>
        {changed.length > 0 ? (
          <ChangeList changes={changed} />
        ) : (
          <Typography variant="body2">{showsCalls ? "Nothing has happened to a call yet." : FOR_MEMBERS}</Typography>
        )}
      </Box>
      {earlier.length > 0 && (
        <Box>
          <Typography variant="h2" sx={{ mt: 4, mb: 0.5 }}>
            {lead ? "Earlier" : "Published"}
          </Typography>
          <EditionList editions={earlier} />
          <Typography variant="body2" sx={{ borderTop: 1, borderColor: "divider", pt: 1 }}>
            <MuiLink component={Link} to="/archive">
              Everything that was published
            </MuiLink>
          </Typography>
        </Box>
      )}
    </ReaderColumns>
  );
}

const FOR_MEMBERS = "Calls are for members: your plan does not show them.";

function LeadView({ lead: { number, kind, title, author, marketTime, begins, markets, picture } }: { lead: Lead }) {
  const { moment } = useTimes();
  return (
    <article>
      <Typography variant="body2" color="text.secondary">
        {EDITION_KINDS[kind].name}, {moment(marketTime)}, by {author}
      </Typography>
      <Typography variant="h1" sx={{ fontSize: { xs: "1.7rem", md: "2.2rem" }, mt: 0.5, mb: 1 }}>
        <MuiLink component={Link} to={`/outlooks/${number}`} underline="hover">
          {title}
        </MuiLink>
      </Typography>
      {begins && <Typography sx={{ fontFamily: SERIF, fontSize: "1.08rem", lineHeight: 1.5 }}>{begins}</Typography>}
      {picture && Object.keys(picture.pictures).length > 0 && (
        <SectionPicture
          address={`/outlooks/${number}/picture/0`}
          pictures={picture.pictures}
          market={{ name: picture.market }}
          rung={picture.rung}
          layout={undefined}
        />
      )}
      <Typography variant="body2" sx={{ mt: 1 }}>
        {markets.map(({ id, name }, i) => (
          <span key={id}>
            {i > 0 && ", "}
            <MuiLink component={Link} to={`/markets/${id}`}>
              {name}
            </MuiLink>
          </span>
        ))}
        {markets.length > 0 && ". "}
        <MuiLink component={Link} to={`/outlooks/${number}`} sx={{ fontWeight: 600 }}>
          Read edition {number}
        </MuiLink>
      </Typography>
    </article>
  );
}

function Nothing({ hasLater }: { hasLater: boolean }) {
  return (
    <>
      <Typography variant="h1" sx={{ mb: 1 }}>
        Outlooks
      </Typography>
      <Typography>
        {hasLater
          ? "What was published is shown to your plan later: below stands when."
          : "Nothing has been published yet. The first outlook will stand here."}
      </Typography>
    </>
  );
}
