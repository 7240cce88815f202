import Box from "@mui/material/Box";
import MuiLink from "@mui/material/Link";
import Typography from "@mui/material/Typography";
import { listPlans, sightOf } from "../../../server/accounts/plans.ts";
import type { Person } from "../../../server/accounts/sessions.ts";
import { revokeToken } from "../../../server/accounts/tokens.ts";
import { sharePicture, sharesOf } from "../../../server/delivery/shared.ts";
import { readOnce } from "../../../server/database/readOnce.ts";
import { paperDrawings } from "../../../server/readers/seenPictures.ts";
import { bandText } from "#core/marks/wording";
import { QuestionDto } from "#contracts/question";
import { readDto } from "#contracts/read";
import { Failure } from "../../../server/failure.ts";
import { ask, questionsSeen } from "../../../server/readers/questions.ts";
import { answer, attempt, personIn, readForm, textField, worksAtDesk } from "../../access.server.ts";
import { Questions } from "./Questions.tsx";
import { ShareForm } from "./ShareForm.tsx";
import { OutlookPage } from "./OutlookPage.tsx";
import { Now, useEditionNow } from "./useNow.ts";
import { readOutlook, type ReadSection } from "./readOutlook.server.ts";
import type { Route } from "./+types/outlook.ts";

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${(loaderData as { title?: string } | undefined)?.title ?? "Outlook"} - Even Compass` },
];

/** Those who are shown the same are sent the same page. */
export const handle = { isForMany: true };

export function loader({ params, request, context }: Route.LoaderArgs) {
  return answer(context, async () => {
    const person = personIn(context);
    const sight = await sightOf(person);
    const outlook = await readOnce(["outlook", params.number, sight], () => readOutlook(params.number, sight));
    const isForPaper = new URL(request.url).searchParams.get("as") === "paper";
    const drawings = isForPaper ? await paperDrawings(outlook.number, sight) : undefined;
    const questions = await questionsSeen(outlook.number, person, sight);
    const sharing = worksAtDesk(person)
      ? {
          plans: (await listPlans()).map(({ id, name }) => ({ id, name })),
          shares: await sharesOf(outlook.number, person),
        }
      : undefined;
    return { outlook, title: outlook.title, drawings, questions, sharing };
  });
}

export function action({ params, request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const [form, person] = [await readForm(request), personIn(context)];
    const step = textField(form, "step");
    if (step === "end share") {
      await revokeToken(person.id, "share", textField(form, "share"));
      return { said: "That address shows nothing any more." };
    }
    if (step === "share") return share(params.number, form, person);
    const fields = ["stance", "about", "words"].map((name) => [name, textField(form, name)]);
    const to = textField(form, "to");
    const read = readDto(QuestionDto, { ...Object.fromEntries(fields), ...(to === "" ? {} : { to }) });
    if (!read.ok)
      throw new Failure("fields", Object.values(read.fields)[0], { status: 400, kept: "Nothing was sent." });
    await ask(params.number, read.value, person);
    return { said: "It is sent. Others see it once somebody at the desk has looked at it." };
  });
}

async function share(number: string, form: FormData, person: Person) {
  if (!worksAtDesk(person)) throw new Failure("role", "Pictures are shared by those at the desk.", { status: 403 });
  const asked = { edition: Number(number), section: Number(textField(form, "section")), plan: textField(form, "plan") };
  return { said: "Whoever has this address sees the picture.", address: await sharePicture(asked, person) };
}

export default function Outlook({
  loaderData: { outlook, drawings, questions, sharing },
  actionData,
}: Route.ComponentProps) {
  const now = useEditionNow(outlook.number, !drawings);
  const [width, layout] = drawings ? [740, "paper" as const] : [1160, undefined];
  return (
    <Box component="main" id="content" sx={{ maxWidth: width, mx: "auto", px: { xs: 2, md: 3 }, py: 3 }}>
      <Now value={now}>
        <OutlookPage {...{ outlook, drawings, layout }} />
      </Now>
      <Typography variant="body2" data-no-print sx={{ mt: 1 }}>
        {drawings ? (
          <MuiLink href={`/outlooks/${outlook.number}`}>As a page</MuiLink>
        ) : (
          <MuiLink href={`/outlooks/${outlook.number}?as=paper`}>For paper</MuiLink>
        )}
        , <MuiLink href={`/outlooks/${outlook.number}/outlook.pdf`}>as a PDF</MuiLink>
      </Typography>
      {sharing && !drawings && (
        <ShareForm
          {...sharing}
          markets={outlook.blocks.flatMap((block) => (block.kind === "market" ? [block.section.market.name] : []))}
          address={actionData && "address" in actionData ? actionData.address : undefined}
        />
      )}
      {!drawings && (
        <Questions
          questions={questions}
          about={outlook.blocks.flatMap((block) =>
            block.kind === "market"
              ? [
                  block.section.market.name,
                  ...block.section.scenarios.map(({ title }) => title),
                  ...levelsNamed(block.section),
                ]
              : [],
          )}
          said={actionData && "said" in actionData ? actionData.said : undefined}
          failure={actionData && "failure" in actionData ? actionData.failure : undefined}
        />
      )}
    </Box>
  );
}

/** Levels as they are asked about: "last high 454.70". */
function levelsNamed({ market, levels = [] }: ReadSection): string[] {
  return levels.map((line) => `${line.label} ${bandText(line, market)}`.slice(0, 200));
}
