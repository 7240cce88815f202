import { useState } from "react";
import type { Filled } from "#core/written/ready";
import type { Written } from "#core/written/written";
import { failureText, postJson } from "../../../parts/post.ts";
import { useWorkspace } from "../session/context.ts";
import type { Building, StoredScenarioOnPage } from "./Scenarios.tsx";

interface Done {
  onSaved(...stored: StoredScenarioOnPage[]): void;
  onRemoved(id: string): void;
}

/** Stores what is written, with the other side of an either-or, and says why where that could not be. */
export function useSaveScenario(building: Building, draft: Written, { onSaved, onRemoved }: Done) {
  const { desk, now } = useWorkspace();
  const [trouble, setTrouble] = useState("");
  const post = (step: "save" | "remove", scenario: Written, version: number) =>
    postJson<StoredScenarioOnPage>(`/descent/${desk.market.id}/scenarios`, { step, version, scenario, writtenAt: now });
  const version = building.stored?.version ?? 0;
  return {
    trouble,
    async save(fault: string | undefined): Promise<void> {
      if (fault !== undefined) return setTrouble(`Nothing was saved: ${fault}`);
      setTrouble("");
      const posted = await post("save", draft, version);
      if (!posted.ok) return setTrouble(failureText(posted.failure));
      const { pair } = building;
      if (!pair) return onSaved(posted.value);
      const { expires } = draft.terms;
      const second = await post("save", { ...pair, terms: { ...pair.terms, expires } }, 0);
      if (!second.ok) return setTrouble(failureText(second.failure));
      onSaved(posted.value, second.value);
    },
    async remove(): Promise<void> {
      const posted = await post("remove", draft, version);
      if (!posted.ok) return setTrouble(failureText(posted.failure));
      onRemoved(draft.id);
    },
  };
}

/** What is written, with a ready-made sentence filled in; of an either-or the other side goes beside it. */
export function filledWith(building: Building, { title, terms, restsOn, other }: Filled): Building {
  const { draft } = building;
  const { expires } = draft.terms;
  const pair = other && pairOf(draft, { title, terms: other }, expires);
  return {
    ...building,
    ...(pair ? { pair } : {}),
    draft: {
      ...draft,
      title: title.slice(0, 80),
      terms: { ...terms, expires },
      ...(restsOn ? { restsOn } : {}),
      ...(pair ? { pair: pair.id } : {}),
    },
  };
}

function pairOf(draft: Written, { title, terms }: Pick<Filled, "title" | "terms">, expires: string): Written {
  return {
    ...draft,
    id: crypto.randomUUID(),
    title: title.replace(/\bup\b/, "down").slice(0, 80),
    role: "alternate",
    pair: draft.id,
    terms: { ...terms, expires },
    waived: {},
  };
}
