import { useEffect, useRef, useState } from "react";
import { useRevalidator } from "react-router";
import type { DraftDto, MarketBlockDto } from "#contracts/draft";
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

/** What each market's picture shows, as a text. */
function shownIn({ blocks }: Pick<DraftDto, "blocks">): string[] {
  return blocks.flatMap((block) => {
    if (block.kind !== "market") return [];
    const { market, rung, scenarios, counts } = block as MarketBlockDto;
    return [JSON.stringify([market, rung, scenarios, counts])];
  });
}
