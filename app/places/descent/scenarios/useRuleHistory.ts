import { useEffect, useRef, useState } from "react";
import type { RuleFound } from "../../../../server/tasks/ruleHistory.ts";
import { failureText, type FailureBody } from "../../../parts/post.ts";

/** How far the history of a rule is, what was found, or why there is nothing. */
export interface Running {
  share?: number;
  found?: RuleFound;
  trouble?: string;
}

interface Line {
  share?: number;
  found?: RuleFound;
  failure?: FailureBody;
}

/** Runs a rule over the past on the server; told of its progress, and stopped when it is not wanted any more. */
export function useRuleHistory(market: string) {
  const [running, setRunning] = useState<Running>({});
  const stopping = useRef<AbortController>(undefined);
  useEffect(() => () => stopping.current?.abort(), []);
  const stop = () => {
    stopping.current?.abort();
    setRunning({});
  };
  const run = async (asked: object) => {
    stopping.current?.abort();
    const { signal } = (stopping.current = new AbortController());
    setRunning({ share: 0 });
    try {
      const response = await fetch(`/descent/${market}/scenarios/history`, {
        method: "POST",
        headers: { "Content-Type": "application/json" },
        body: JSON.stringify(asked),
        signal,
      });
      if (!response.ok || !response.body) {
        const { failure } = (await response.json()) as Line;
        return setRunning({ trouble: failure ? failureText(failure) : "The server could not do this." });
      }
      for await (const { share, found, failure } of linesOf(response.body))
        setRunning(found ? { found } : failure ? { trouble: failureText(failure) } : { share: share ?? 0 });
    } catch {
      if (!signal.aborted) setRunning({ trouble: "The server does not answer. Nothing was lost: try it once more." });
    }
  };
  return { running, run, stop };
}

/** Lines of JSON as they come. */
async function* linesOf(body: ReadableStream<Uint8Array>): AsyncGenerator<Line> {
  const reader = body.getReader();
  const decoder = new TextDecoder();
  let rest = "";
  for (;;) {
    const { value, done } = await reader.read();
    rest += decoder.decode(value, { stream: !done });
    const lines = rest.split("\n");
    rest = lines.pop() ?? "";
    for (const line of lines) if (line !== "") yield JSON.parse(line) as Line;
    if (done) return;
  }
}
