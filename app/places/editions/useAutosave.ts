import { useEffect, useRef, useState } from "react";
import { useRevalidator } from "react-router";
import type { DraftDto } from "#contracts/draft";
import { failureText, postJson } from "../../parts/post.ts";

/** Saves what is on the page a moment after it stops changing; loads the page's tables anew once it is stored. */
export function useAutosave(id: string, initial: number, content: Omit<DraftDto, "version">) {
  const [version, setVersion] = useState(initial);
  const [state, setState] = useState<"saved" | "changed" | "failed">("saved");
  const [sentence, setSentence] = useState("everything is saved");
  // Markets the server knows: only those have a picture to ask for.
  const [pictures, setPictures] = useState(countMarkets(content));
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
          setPictures(countMarkets(JSON.parse(now) as typeof content));
          setState("saved");
          void revalidate();
          setSentence(`saved ${new Date().toTimeString().slice(0, 8)}`);
        },
      );
    }, 500);
    return () => clearTimeout(timer);
  }, [now, id, version, revalidate]);
  return { state, version, sentence, pictures };
}

const countMarkets = ({ blocks }: Pick<DraftDto, "blocks">) => blocks.filter(({ kind }) => kind === "market").length;
