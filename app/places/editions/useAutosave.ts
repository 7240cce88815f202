import { useEffect, useRef, useState } from "react";
import { useRevalidator } from "react-router";
import type { DraftDto, MarketBlockDto, WalkBlockDto } from "#contracts/draft";
import { failureText, postJson } from "../../parts/post.ts";

/** Saves what is on the page a moment after it stops changing; loads the page's tables anew once it is stored. */
export function useAutosave(id: string, initial: number, content: Omit<DraftDto, "version">) {
  const [version, setVersion] = useState(initial);
  const [state, setState] = useState<"saved" | "changed" | "failed">("saved");
  const [sentence, setSentence] = useState("everything is saved");
  // Pictures of what the server knows, by what each shows: words and titles that change ask for none anew.
  const [pictures, setPictures] = useState(shownIn(content));
  const stored = useRef(JSON.stringify(content));
  const sending = useRef(false);
  const now = JSON.stringify(content);
  const { revalidate } = useRevalidator();
  useEffect(() => {
    if (now === stored.current) return;
    setState("changed");
    setSentence("saving ...");
    const timer = setTimeout(() => {
      if (sending.current) return;
      sending.current = true;
      void postJson<{ version: number }>(`/editions/${id}/save`, { ...(JSON.parse(now) as object), version }).then(
        (posted) => {
          sending.current = false;
          if (!posted.ok) {
            setState("failed");
            return setSentence(failureText(posted.failure));
          }
          stored.current = now;
          setVersion(posted.value.version);
          setPictures(shownIn(JSON.parse(now) as typeof content));
          setState("saved");
          void revalidate();
          setSentence(`saved ${new Date().toTimeString().slice(0, 8)}`);
        },
      );
    }, 500);
    return () => clearTimeout(timer);
  }, [now, id, version, revalidate]);
  return { state, sentence, pictures, version };
}

/** What each picture shows, as a text: those of the markets, then those of the steps of walks. */
function shownIn({ blocks }: Pick<DraftDto, "blocks">): string[] {
  const markets = blocks.filter((block): block is MarketBlockDto => block.kind === "market");
  const walks = blocks.filter((block): block is WalkBlockDto => block.kind === "walk");
  return [
    ...markets.map(({ market, rung, scenarios, counts }) => JSON.stringify([market, rung, scenarios, counts])),
    ...walks.flatMap(({ market, steps }) =>
      steps.map(({ rung }, i) => {
        const called = i === steps.length - 1 ? markets.filter((one) => one.market === market) : [];
        return JSON.stringify([market, rung, called.flatMap(({ scenarios }) => scenarios)]);
      }),
    ),
  ];
}
