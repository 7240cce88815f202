import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import type { ChosenStudy } from "#core/studies/chosen";
import type { StudiesOfSet } from "../../../../server/desk/studies.ts";
import { PANEL } from "#core/studies/limits";
import { failureText, postJson } from "../../../parts/post.ts";

export interface Studies extends StudiesOfSet {
  /** What was said of the last change that could not be kept, or of what was taken away. */
  said: string;
  /** What was taken away last, to be put back. */
  taken: ChosenStudy | undefined;
  /** Puts other studies on the charts; they are drawn at once and kept. */
  change(next: readonly ChosenStudy[]): void;
  remove(index: number): void;
  putBack(): void;
  keepLook(name: string): Promise<void>;
  dropLook(name: string): Promise<void>;
}

const SETTLES = 300;
/** Other tabs of this browser, told when what they show of studies was changed. */
const CHANNEL = "compass-studies";

const NONE: StudiesOfSet = { chosen: [], looks: [] };

/** The studies on the charts of a set of rungs, the same on every market's. */
export function useStudies(set: string, opened?: StudiesOfSet): Studies {
  const queries = useQueryClient();
  const queryKey = [`/studies?set=${encodeURIComponent(set)}`];
  const { data = NONE } = useQuery<StudiesOfSet>({ queryKey, ...(opened ? { initialData: opened } : {}) });
  const [said, setSaid] = useState("");
  const [taken, setTaken] = useState<{ study: ChosenStudy; at: number }>();
  const saving = useRef<ReturnType<typeof setTimeout>>(undefined);
  const address = queryKey[0];
  // A channel does not hear itself: this tab is not told of what it kept.
  const others = useRef<BroadcastChannel>(undefined);
  const tellOthers = () => others.current?.postMessage("changed");
  useEffect(() => {
    const channel = new BroadcastChannel(CHANNEL);
    others.current = channel;
    // What is about to be kept here comes after what another tab kept.
    channel.onmessage = () => {
      if (saving.current === undefined) void queries.invalidateQueries({ queryKey: [address] });
    };
    return () => channel.close();
  }, [queries, address]);
  const show = (change: Partial<StudiesOfSet>) =>
    queries.setQueryData<StudiesOfSet>(queryKey, (held = NONE) => ({ ...held, ...change }));
  const change = (next: readonly ChosenStudy[]) => {
    show({ chosen: [...next] });
    setTaken(undefined);
    setSaid("");
    // A panel that is dragged changes at every move: what it came to is kept.
    clearTimeout(saving.current);
    saving.current = setTimeout(() => {
      saving.current = undefined;
      void postJson("/studies", { set, studies: next }).then((kept) => {
        if (kept.ok) tellOthers();
        else setSaid(failureText(kept.failure));
      });
    }, SETTLES);
  };
  return {
    ...data,
    said,
    taken: taken?.study,
    change,
    remove(index) {
      const study = data.chosen[index];
      change(data.chosen.filter((_, i) => i !== index));
      setTaken({ study, at: index });
    },
    putBack() {
      if (taken) change(data.chosen.toSpliced(taken.at, 0, taken.study));
    },
    async keepLook(name) {
      const kept = await postJson<StudiesOfSet["looks"][number]>("/looks", { name, studies: data.chosen });
      if (!kept.ok) return setSaid(failureText(kept.failure));
      const rest = data.looks.filter((look) => look.name !== kept.value.name);
      show({ looks: [...rest, kept.value].sort((a, b) => a.name.localeCompare(b.name)) });
      tellOthers();
      setSaid(`"${kept.value.name}" is among your looks.`);
    },
    async dropLook(name) {
      await fetch("/looks", {
        method: "DELETE",
        headers: { "Content-Type": "application/json" },
        body: JSON.stringify({ name }),
      });
      tellOthers();
      show({ looks: data.looks.filter((look) => look.name !== name) });
    },
  };
}

/** A study whose panel takes another share of its chart. */
export function withHeight(chosen: ChosenStudy, height: number): ChosenStudy {
  return { ...chosen, height: Math.min(PANEL.most, Math.max(PANEL.least, height)) };
}
