import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { lazy, Suspense } from "react";
import type { Area } from "#core/areas/areas";
import type { MarketFacts } from "#core/marks/kind";
import { priceText } from "#core/marks/wording";
import { tradableRungs } from "#core/time/rungs";
import { toTick } from "../../../../chart/snap.ts";
import { useSession, useSessionState, useWorkspace } from "../session/context.ts";
import type { StoredScenarioOnPage } from "./ScenarioBuilder.tsx";
import type { ScenarioFields } from "./scenarioForm.ts";
import { ScenarioLine } from "./ScenarioLine.tsx";

/** Loaded when one is written. */
const ScenarioBuilder = lazy(async () => ({ default: (await import("./ScenarioBuilder.tsx")).ScenarioBuilder }));

interface Props {
  /** What became of the count a scenario rests on, when that has died or is gone. */
  lostOf(scenario: StoredScenarioOnPage["scenario"]): string | undefined;
}

/** A scenario that is written: one that stands, or a new one with what is known of it. */
export type Building = StoredScenarioOnPage | { seed: Partial<ScenarioFields> };

/** What an area says of a scenario: back from it, beyond its far edge it is wrong. */
export function seedOf(
  { bottom, top }: Area,
  price: number,
  atr: number,
  market: MarketFacts,
): Partial<ScenarioFields> {
  const long = (bottom + top) / 2 <= price;
  const text = (value: number) => priceText(toTick(value, market.tick, market.decimals), market);
  const [near, far] = long ? [top, bottom - atr / 4] : [bottom, top + atr / 4];
  return {
    direction: long ? "long" : "short",
    triggerEvent: long ? "closeAbove" : "closeBelow",
    triggerPrice: text(near),
    entry: text(near),
    stop: text(far),
    invalidation: text(far),
    title: `Back from ${text(bottom)} to ${text(top)}`,
  };
}

/** The scenarios of a market: listed, or one of them in the builder. */
export function Scenarios({ lostOf }: Props) {
  const session = useSession();
  const building = useSessionState((state) => state.building);
  const shown = useSessionState((state) => state.shownScenario);
  const { desk, rung, rungSet, now, scenarios, setScenarios } = useWorkspace();
  const build = (next: Building | undefined) => session.set({ building: next });
  return (
    <Box sx={{ borderTop: 1, borderColor: "divider", mt: 2, pt: 1.5 }}>
      <Box sx={{ display: "flex", alignItems: "baseline", justifyContent: "space-between" }}>
        <Typography variant="h2">Scenarios</Typography>
        {!building && (
          <Button variant="text" onClick={() => build({ seed: {} })}>
            Write one
          </Button>
        )}
      </Box>
      {building ? (
        <Suspense>
          <ScenarioBuilder
            market={desk.market}
            rung={rung}
            tradable={tradableRungs(rungSet)}
            now={now}
            key={"seed" in building ? JSON.stringify(building.seed) : building.scenario.id}
            stored={"seed" in building ? undefined : building}
            seed={"seed" in building ? building.seed : {}}
            onSaved={(stored) => {
              setScenarios([...scenarios.filter(({ scenario }) => scenario.id !== stored.scenario.id), stored]);
              session.set({ shownScenario: stored.scenario.id, building: undefined });
            }}
            onRemoved={(id) => {
              setScenarios(scenarios.filter(({ scenario }) => scenario.id !== id));
              build(undefined);
            }}
            onClose={() => build(undefined)}
          />
        </Suspense>
      ) : (
        scenarios.map((stored) => (
          <ScenarioLine
            key={stored.scenario.id}
            scenario={stored.scenario}
            market={desk.market}
            lost={lostOf(stored.scenario)}
            shown={shown === stored.scenario.id}
            onShow={() => session.set({ shownScenario: shown === stored.scenario.id ? undefined : stored.scenario.id })}
            onEdit={() => build(stored)}
          />
        ))
      )}
    </Box>
  );
}
