import Typography from "@mui/material/Typography";
import { failureText, type FailureBody } from "./post.ts";

interface Props {
  said: string | undefined;
  failure: FailureBody | undefined;
}

/** What came of a form: said where it worked, in an alert where it did not. */
export function Outcome({ said, failure }: Props) {
  return (
    <>
      <Typography role="status" sx={{ minHeight: "1.5em", fontWeight: 600 }}>
        {said}
      </Typography>
      {failure && (
        <Typography role="alert" sx={{ fontWeight: 600 }}>
          {failureText({ ...failure, sentence: Object.values(failure.fields ?? {})[0] ?? failure.sentence })}
        </Typography>
      )}
    </>
  );
}
