import { useEffect, useEffectEvent, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { useRevalidator } from "react-router";
import type { DraftDto, MarketBlockDto, WalkBlockDto } from "#contracts/draft";
import type { Block } from "#core/edition/blocks";
import { mergeDrafts, type Written } from "#core/edition/merge";
import { failureText, postJson } from "../../parts/post.ts";

/** How long after the last change it is saved, and how often it is looked for what a colleague has written (ms). */
const PAUSE = 500;
const LOOK = 2_000;

const SAVED = "everything is saved";
const SAVING = "saving ...";

interface Stored extends Written {
  version: number;
}

/**
 * Saves what is on the page a moment after it stops changing, and loads the page's tables anew once it is stored. What
 * a colleague has stored meanwhile is put together with it (`onMerged`): neither overwrites the other.
 */
export function useAutosave(id: string, initial: number, content: Written, onMerged: (merged: Written) => void) {
  const [version, setVersion] = useState(initial);
  const [state, setState] = useState<"saved" | "changed" | "failed">("saved");
  const [sentence, setSentence] = useState(SAVED);
  // Pictures of what the server knows, by what each shows: words and titles that change ask for none anew.
  const [pictures, setPictures] = useState(shownIn(content.blocks));
  const now = JSON.stringify(content);
  /** What is stored, as far as this page knows. */
  const stored = useRef(now);
  const refused = useRef("");
  const busy = useRef(false);
  const { revalidate } = useRevalidator();

  /** Puts together what is stored now and what is on the page. */
  const takeIn = useEffectEvent((theirs: Stored) => {
    const { version: newer, title, kind, blocks } = theirs;
    const merged = mergeDrafts(JSON.parse(stored.current) as Written, content, { title, kind, blocks });
    stored.current = JSON.stringify({ title, kind, blocks });
    setVersion(newer);
    setPictures(shownIn(blocks));
    // At once: a key that is struck meanwhile would be struck into what stood there before.
    flushSync(() => onMerged(merged));
    if (JSON.stringify(merged) === stored.current) setState("saved");
    setSentence("put together with what a colleague wrote");
    void revalidate();
  });

  const look = useEffectEvent(async () => {
    if (busy.current || document.hidden) return;
    busy.current = true;
    try {
      const theirs = await storedNow(id, version);
      // What was typed last is on the page before anything is put together with it.
      flushSync(() => {});
      if (theirs) takeIn(theirs);
    } finally {
      busy.current = false;
    }
  });

  const save = useEffectEvent(async (sent: string) => {
    // What was refused for what it says is refused again until it says something else.
    if (busy.current || refused.current === sent) return;
    busy.current = true;
    const posted = await postJson<{ version: number }>(`/editions/${id}/save`, {
      ...(JSON.parse(sent) as DraftDto),
      version,
    });
    if (posted.ok) {
      stored.current = sent;
      setVersion(posted.value.version);
      setPictures(shownIn((JSON.parse(sent) as Written).blocks));
      setState("saved");
      setSentence(`saved ${new Date().toTimeString().slice(0, 8)}`);
      void revalidate();
    } else if (posted.failure.code === "stale") {
      const theirs = await storedNow(id, version);
      flushSync(() => {});
      if (theirs) takeIn(theirs);
    } else {
      if (posted.status > 0) refused.current = sent;
      setState("failed");
      setSentence(failureText(posted.failure));
    }
    busy.current = false;
  });

  useEffect(() => {
    if (now === stored.current) {
      // Typed and taken back again before it was stored: nothing waits to be.
      setState((before) => (before === "changed" ? "saved" : before));
      setSentence((before) => (before === SAVING ? SAVED : before));
      return;
    }
    setState("changed");
    setSentence(SAVING);
    const timer = setInterval(() => void save(now), PAUSE);
    return () => clearInterval(timer);
  }, [now, version]);

  useEffect(() => {
    const timer = setInterval(() => void look(), LOOK);
    return () => clearInterval(timer);
  }, []);

  return { state, sentence, pictures, version };
}

/** What is stored of a draft, where it is another version than this. */
async function storedNow(id: string, has: number): Promise<Stored | undefined> {
  try {
    const response = await fetch(`/editions/${id}/now?has=${has}`);
    if (!response.ok || response.status === 204) return undefined;
    const { published, ...stored } = (await response.json()) as Stored & { published: number | null };
    return published === null ? stored : undefined;
  } catch {
    return undefined;
  }
}

/** What each picture shows, as a text: those of the markets, then those of the steps of walks. */
function shownIn(blocks: readonly Block[]): string[] {
  const all = blocks as unknown as DraftDto["blocks"];
  const markets = all.filter((block): block is MarketBlockDto => block.kind === "market");
  const walks = all.filter((block): block is WalkBlockDto => block.kind === "walk");
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
