import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import NativeSelect from "@mui/material/NativeSelect";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { Form } from "react-router";
import { LONGEST_QUESTION } from "#contracts/draft";
import type { QuestionLine } from "../../../server/readers/questions.ts";
import { Outcome } from "../../parts/Outcome.tsx";
import type { FailureBody } from "../../parts/post.ts";
import { useTimes } from "../../parts/useTimes.ts";

interface Props {
  questions: readonly QuestionLine[];
  /** What can be asked about: the markets, calls and levels of the outlook. */
  about: readonly string[];
  said: string | undefined;
  failure: FailureBody | undefined;
}

const STANCE = { question: "asks", agree: "agrees", disagree: "disagrees" } as const;
const OWN = { asks: "ask", agrees: "agree", disagrees: "disagree", replies: "reply" } as const;
const STATE = { waiting: "Waits to be looked at.", refused: "Was not shown to others.", shown: "" } as const;

/** What readers ask and hold against an outlook, with the answers, and a place to do so. */
export function Questions({ questions, about, said, failure }: Props) {
  return (
    <Box component="section" aria-label="Questions" data-no-print sx={{ maxWidth: 760, mt: 4 }}>
      <Typography variant="h2" sx={{ borderTop: "1.5px solid", borderColor: "text.primary", pt: 1 }}>
        Asked and answered
      </Typography>
      {questions
        .filter(({ to }) => to === null)
        .map((begun) => (
          <Box key={begun.id} sx={{ borderBottom: 1, borderColor: "divider", py: 1 }}>
            <Said line={begun} />
            {questions
              .filter(({ to }) => to === begun.id)
              .map((reply) => (
                <Box key={reply.id} sx={{ pl: 2, mt: 1, borderLeft: 2, borderColor: "divider" }}>
                  <Said line={reply} />
                </Box>
              ))}
            {begun.state === "shown" && <Reply key={questions.length} to={begun.id} />}
          </Box>
        ))}
      <Outcome said={said} failure={failure} />
      <Form method="post" key={questions.length}>
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 2, mb: 1 }}>
          <NativeSelect name="stance" inputProps={{ "aria-label": "What it is" }}>
            <option value="question">A question</option>
            <option value="agree">I agree, because</option>
            <option value="disagree">I disagree, because</option>
          </NativeSelect>
          <NativeSelect name="about" inputProps={{ "aria-label": "What it is about" }}>
            <option value="">on the whole</option>
            {about.map((name) => (
              <option key={name} value={name}>
                on {name}
              </option>
            ))}
          </NativeSelect>
        </Box>
        <TextField
          name="words"
          label="In your words"
          multiline
          required
          slotProps={{ htmlInput: { maxLength: LONGEST_QUESTION, minLength: 3 } }}
        />
        <Button type="submit" variant="outlined" sx={{ mt: 1 }}>
          Send it
        </Button>
      </Form>
    </Box>
  );
}

/** What somebody said, and what the desk answered. */
function Said({ line }: { line: QuestionLine }) {
  const { moment } = useTimes();
  const { about, stance, words, state, createdAt, answer, answeredBy, own, to } = line;
  const does = to === null ? STANCE[stance] : "replies";
  return (
    <>
      <Typography variant="body2" color="text.secondary">
        {own ? "You" : "A reader"} {own ? OWN[does] : does}
        {about && `, on ${about}`}, {moment(createdAt)}. {STATE[state]}
      </Typography>
      <Typography sx={{ whiteSpace: "pre-line", overflowWrap: "anywhere" }}>{words}</Typography>
      {answer && (
        <Typography sx={{ whiteSpace: "pre-line", overflowWrap: "anywhere", pl: 2, mt: 0.5 }}>
          <strong>{answeredBy}:</strong> {answer}
        </Typography>
      )}
    </>
  );
}

/** Opened without any script. */
function Reply({ to }: { to: string }) {
  return (
    <Box component="details" sx={{ mt: 0.5 }}>
      <Typography component="summary" variant="body2" sx={{ cursor: "pointer" }}>
        Reply
      </Typography>
      <Form method="post">
        <input type="hidden" name="to" value={to} />
        <input type="hidden" name="stance" value="question" />
        <TextField
          name="words"
          label="Your reply"
          multiline
          required
          slotProps={{ htmlInput: { maxLength: LONGEST_QUESTION, minLength: 3 } }}
        />
        <Button type="submit" variant="outlined" sx={{ mt: 1 }}>
          Send the reply
        </Button>
      </Form>
    </Box>
  );
}
