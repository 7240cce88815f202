import { lazy, Suspense } from "react";
import { SheetAside } from "../SheetAside.tsx";
import { useSession, useWorkspace } from "../session/context.ts";
import type { Building } from "./Scenarios.tsx";

/** Loaded when one is written. */
const ScenarioBuilder = lazy(async () => ({ default: (await import("./ScenarioBuilder.tsx")).ScenarioBuilder }));

/** The Sheet while a scenario is written: wider, and nothing else on it. */
export function ScenarioSheet({ building }: { building: Building }) {
  const session = useSession();
  const { scenarios, setScenarios } = useWorkspace();
  const close = () => session.set({ building: undefined });
  return (
    <SheetAside width={400}>
      <Suspense>
        <ScenarioBuilder
          key={building.draft.id}
          building={building}
          others={scenarios.map(({ scenario }) => scenario).filter(({ id }) => id !== building.draft.id)}
          onSaved={(...saved) => {
            const ids = saved.map(({ scenario }) => scenario.id);
            setScenarios([...scenarios.filter(({ scenario }) => !ids.includes(scenario.id)), ...saved]);
            session.set({ shownScenario: ids[0], building: undefined });
          }}
          onRemoved={(id) => {
            setScenarios(scenarios.filter(({ scenario }) => scenario.id !== id));
            close();
          }}
          onClose={close}
        />
      </Suspense>
    </SheetAside>
  );
}
