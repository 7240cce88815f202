import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { waitText } from "#core/readers/wait";
import { findPlan, listPlans, WHOLE } from "../../../server/accounts/plans.ts";
import { findDraft } from "../../../server/publishing/drafts.ts";
import { wouldBe } from "../../../server/publishing/freeze.ts";
import { asText } from "../../../server/readers/asText.ts";
import { figuresSeen } from "../../../server/readers/figuresSeen.ts";
import { wouldSee } from "../../../server/readers/seen.ts";
import { answer } from "../../access.server.ts";
import { HeadRow } from "../../parts/HeadRow.tsx";
import { Page } from "../../parts/Page.tsx";
import { PageTitle } from "../../parts/TopBar.tsx";
import type { Route } from "./+types/previews.ts";

export const meta: Route.MetaFunction = () => [{ title: "Previews - Even Compass" }];

export function loader({ params, request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const draft = await findDraft(params.draft);
    const plans = await listPlans();
    const chosen = new URL(request.url).searchParams.get("plan") ?? plans[0]?.id ?? "";
    const sight = chosen === "" ? WHOLE : await findPlan(chosen);
    const content = await wouldBe(draft);
    return {
      draft: { id: draft.id, title: draft.title },
      chosen,
      plans: plans.map((plan) => ({
        ...{ id: plan.id, name: plan.name, readers: plan.readers, wait: plan.wait },
        gets: plan.kinds.includes(draft.kind),
        figures: figuresSeen(wouldSee(content, plan)),
      })),
      mail: asText(wouldSee(content, sight)),
    };
  });
}

const WIDE = { width: 1160, height: 900, scale: 0.5 };

/** A draft as each plan will see it: its figures, and how it looks on a page, a phone, paper and as mail. */
export default function Previews({ loaderData: { draft, plans, chosen, mail } }: Route.ComponentProps) {
  const at = (layout = "") =>
    `/editions/${draft.id}/read?plan=${encodeURIComponent(chosen)}${layout && `&layout=${layout}`}`;
  return (
    <Page>
      <PageTitle
        aside={
          <MuiLink component={Link} to={`/editions/${draft.id}`}>
            Back to the draft
          </MuiLink>
        }
      >
        As readers will see it
      </PageTitle>
      <Table aria-label="What each plan shows" sx={{ maxWidth: 860, mb: 2 }}>
        <HeadRow
          columns={[
            "Plan",
            "Readers",
            "When",
            "Words",
            "Levels",
            "Calls",
            "Of those with orders",
            "Pictures",
            "Numbers",
          ]}
        />
        <TableBody>
          {plans.map(({ id, name, readers, wait, gets, figures }) => (
            <TableRow key={id} selected={id === chosen}>
              <TableCell component="th" scope="row">
                <MuiLink
                  component={Link}
                  to={`?plan=${encodeURIComponent(id)}`}
                  preventScrollReset
                  aria-current={id === chosen ? "true" : undefined}
                >
                  {name}
                </MuiLink>
              </TableCell>
              <TableCell>{readers}</TableCell>
              <TableCell>{gets ? waitText(wait) : "never"}</TableCell>
              {[figures.words, figures.levels, figures.calls, figures.orders, figures.pictures, figures.numbers].map(
                (count, i) => (
                  <TableCell key={i}>{count}</TableCell>
                ),
              )}
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Box sx={{ display: "flex", gap: 3, flexWrap: "wrap", alignItems: "flex-start" }}>
        <Framed title="On a page" src={at()} {...WIDE} />
        <Framed title="On a phone" src={at()} width={360} height={640} scale={0.7} />
        <Framed title="On paper" src={at("paper")} width={794} height={1123} scale={0.5} />
        <Box component="section" aria-label="As mail" sx={{ flex: "1 1 420px", minWidth: 0 }}>
          <Typography variant="h2">As mail</Typography>
          <Box
            component="pre"
            sx={{
              border: 1,
              borderColor: "divider",
              p: 1,
              m: 0,
              maxHeight: 480,
              overflow: "auto",
              whiteSpace: "pre-wrap",
            }}
            tabIndex={0}
          >
            {mail}
          </Box>
        </Box>
      </Box>
    </Page>
  );
}

interface FramedProps {
  title: string;
  src: string;
  /** Of the page that is shown, in its own pixels. */
  width: number;
  height: number;
  scale: number;
}

/** A page of a width of its own, made small: what it decides by its width it decides as it will there. */
function Framed({ title, src, width, height, scale }: FramedProps) {
  return (
    <Box component="section" aria-label={title}>
      <Typography variant="h2">{title}</Typography>
      <Box sx={{ width: width * scale, height: height * scale, overflow: "hidden", border: 1, borderColor: "divider" }}>
        <iframe
          title={title}
          src={src}
          width={width}
          height={height}
          style={{ border: 0, transform: `scale(${scale})`, transformOrigin: "0 0" }}
        />
      </Box>
      <MuiLink href={src} target="_blank" rel="noopener">
        In full
      </MuiLink>
    </Box>
  );
}
