import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MuiLink from "@mui/material/Link";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { Form, Link, redirect } from "react-router";
import { LONGEST_ANSWER } from "#contracts/draft";
import { PART_NAMES, PARTS } from "#core/edition/parts";
import { decide, questionsAtDesk, quote } from "../../../server/readers/questions.ts";
import { answer, attempt, personIn, readForm, textField, worksAtDesk } from "../../access.server.ts";
import { failureText } from "../../parts/post.ts";
import { momentText } from "../../parts/times.ts";
import { PageTitle } from "../../parts/TopBar.tsx";
import type { Route } from "./+types/questions.ts";

export const meta: Route.MetaFunction = () => [{ title: "Questions - Even Compass" }];

export function loader({ context }: Route.LoaderArgs) {
  return answer(context, async () => ({
    questions: await questionsAtDesk(),
    answers: worksAtDesk(personIn(context)),
  }));
}

export function action({ request, context }: Route.ActionArgs) {
  return attempt(context, async () => {
    const form = await readForm(request);
    const [id, step, person] = [textField(form, "id"), textField(form, "step"), personIn(context)];
    // Those who moderate decide what others see; analysts answer.
    const answers = worksAtDesk(person);
    if (step === "quote" && answers) throw redirect(`/editions/${await quote(id, person)}`);
    const words = answers ? textField(form, "answer") : undefined;
    await decide(id, step === "refuse" ? "refused" : "shown", words, person);
    return {};
  });
}

type Line = Route.ComponentProps["loaderData"]["questions"][number];

/** What readers ask and hold against editions: answered, shown to others or not, and quoted into the next edition. */
export default function QuestionsPage({ loaderData: { questions, answers }, actionData }: Route.ComponentProps) {
  const failure = actionData && "failure" in actionData ? actionData.failure : undefined;
  const [waiting, rest] = [
    questions.filter(({ state }) => state === "waiting"),
    questions.filter(({ state }) => state !== "waiting"),
  ];
  return (
    <Box component="main" id="content" sx={{ maxWidth: 860, mx: "auto", px: 2, py: 3 }}>
      <PageTitle>Questions</PageTitle>
      {failure && (
        <Typography role="alert" sx={{ mb: 2, fontWeight: 600 }}>
          {failureText(failure)}
        </Typography>
      )}
      {waiting.length === 0 && <Typography>Nobody waits for an answer.</Typography>}
      {waiting.map((one) => (
        <QuestionForm key={one.id} question={one} answers={answers} />
      ))}
      {rest.length > 0 && (
        <Typography variant="h2" sx={{ mt: 4 }}>
          Decided
        </Typography>
      )}
      {rest.map((one) => (
        <QuestionForm key={`${one.id} ${one.state}`} question={one} answers={answers} />
      ))}
    </Box>
  );
}

const STANCE = { question: "asks", agree: "agrees", disagree: "disagrees" } as const;

function QuestionForm({ question, answers }: { question: Line; answers: boolean }) {
  const { id, edition, about, stance, words, state, createdAt, who, sees, to } = question;
  const hidden = PARTS.filter((part) => !sees.includes(part)).map((part) => PART_NAMES[part].toLowerCase());
  return (
    <Box component="article" sx={{ borderTop: 1, borderColor: "divider", py: 1.5, maxWidth: 760 }}>
      <Typography variant="body2" color="text.secondary">
        {who} {to ? "replies" : STANCE[stance]}
        {about && `, on ${about}`},{" "}
        <MuiLink component={Link} to={`/outlooks/${edition}`}>
          edition {edition}
        </MuiLink>
        , {momentText(createdAt, "utc")} UTC{state === "waiting" ? "" : `; ${state}`}
      </Typography>
      <Typography sx={{ whiteSpace: "pre-line", overflowWrap: "anywhere", my: 0.5 }}>{words}</Typography>
      {hidden.length > 0 && (
        <Typography variant="body2">
          Their plan does not show {hidden.join(", ")}: an answer that tells of those tells them.
        </Typography>
      )}
      <Form method="post">
        <input type="hidden" name="id" value={id} />
        {answers ? (
          <TextField
            name="answer"
            label="Answer"
            multiline
            defaultValue={question.answer ?? ""}
            slotProps={{ htmlInput: { maxLength: LONGEST_ANSWER } }}
          />
        ) : (
          question.answer && <Typography sx={{ whiteSpace: "pre-line" }}>{question.answer}</Typography>
        )}
        <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
          {(answers || state !== "shown") && (
            <Button type="submit" name="step" value="show" variant="contained">
              Show it{state === "shown" ? " so" : ""}
            </Button>
          )}
          {state !== "refused" && (
            <Button type="submit" name="step" value="refuse" variant="text">
              Keep it from others
            </Button>
          )}
          {answers && question.answer && (
            <Button type="submit" name="step" value="quote" variant="text">
              Quote in my next edition
            </Button>
          )}
        </Box>
      </Form>
    </Box>
  );
}
