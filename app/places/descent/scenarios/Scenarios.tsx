import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { lazy, Suspense } from "react";
import type { Area } from "#core/areas/areas";
import type { MarketFacts } from "#core/marks/kind";
import { priceText } from "#core/marks/wording";
import { toTick } from "../../../../chart/snap.ts";
import type { StoredScenarioOnPage } from "./ScenarioBuilder.tsx";
import type { PlanFields } from "./scenarioForm.ts";
import { ScenarioLine } from "./ScenarioLine.tsx";

/** Loaded when one is written. */
const ScenarioBuilder = lazy(async () => ({ default: (await import("./ScenarioBuilder.tsx")).ScenarioBuilder }));

interface Props {
  tradable: readonly string[];
  now: number;
  shownScenario: string | undefined;
  onShowScenario(id: string | undefined): void;
  onScenarios(plans: StoredScenarioOnPage[]): void;
  market: MarketFacts;
  rung: string;
  plans: StoredScenarioOnPage[];
  /** What became of the count a plan rests on, when that has died or is gone. */
  lostOf(plan: StoredScenarioOnPage["plan"]): string | undefined;
  building: Building | undefined;
  onBuilding(building: Building | undefined): void;
}

/** A plan that is written: one that stands, or a new one with what is known of it. */
export type Building = StoredScenarioOnPage | { seed: Partial<PlanFields> };

/** What an area says of a plan: back from it, beyond its far edge it is wrong. */
export function seedOf({ bottom, top }: Area, price: number, atr: number, market: MarketFacts): Partial<PlanFields> {
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
export function Scenarios({
  building,
  onBuilding,
  plans,
  shownScenario,
  onShowScenario,
  onScenarios,
  lostOf,
  ...rest
}: Props) {
  return (
    <Box sx={{ borderTop: 1, borderColor: "divider", mt: 2, pt: 1.5 }}>
      <Box sx={{ display: "flex", alignItems: "baseline", justifyContent: "space-between" }}>
        <Typography variant="h2">Scenarios</Typography>
        {!building && (
          <Button variant="text" onClick={() => onBuilding({ seed: {} })}>
            Write one
          </Button>
        )}
      </Box>
      {building ? (
        <Suspense>
          <ScenarioBuilder
            {...rest}
            key={"seed" in building ? JSON.stringify(building.seed) : building.plan.id}
            stored={"seed" in building ? undefined : building}
            seed={"seed" in building ? building.seed : {}}
            onSaved={(stored) => {
              onScenarios([...plans.filter(({ plan }) => plan.id !== stored.plan.id), stored]);
              onShowScenario(stored.plan.id);
              onBuilding(undefined);
            }}
            onRemoved={(id) => {
              onScenarios(plans.filter(({ plan }) => plan.id !== id));
              onBuilding(undefined);
            }}
            onClose={() => onBuilding(undefined)}
          />
        </Suspense>
      ) : (
        plans.map((stored) => (
          <ScenarioLine
            key={stored.plan.id}
            plan={stored.plan}
            market={rest.market}
            lost={lostOf(stored.plan)}
            shown={shownScenario === stored.plan.id}
            onShow={() => onShowScenario(shownScenario === stored.plan.id ? undefined : stored.plan.id)}
            onEdit={() => onBuilding(stored)}
          />
        ))
      )}
    </Box>
  );
}
