import { countText } from "#core/marks/wording";
import { setProblem } from "#core/written/sets";
import type { Written } from "#core/written/written";
import { failureText, postJson } from "../../../parts/post.ts";
import { useWorkspace } from "../session/context.ts";
import type { StoredScenarioOnPage } from "./Scenarios.tsx";

/** Keeps several new scenarios of the market at once; what became of that, in a sentence. */
export function useKeepScenarios(): (written: readonly Written[]) => Promise<string> {
  const { desk, now, scenarios, setScenarios } = useWorkspace();
  return async (written) => {
    if (written.length === 0) return "None of these counts asks for a trade.";
    const kept: StoredScenarioOnPage[] = [];
    for (const scenario of written) {
      const body = { step: "save", version: 0, scenario, writtenAt: now };
      const posted = await postJson<StoredScenarioOnPage>(`/descent/${desk.market.id}/scenarios`, body);
      if (!posted.ok) return `${countText(kept.length, "scenario")} written. ${failureText(posted.failure)}`;
      kept.push(posted.value);
    }
    setScenarios([...scenarios, ...kept]);
    const all = [...scenarios, ...kept].map(({ scenario }) => scenario);
    return [`${countText(kept.length, "scenario")} written.`, setProblem(all)].filter(Boolean).join(" ");
  };
}
