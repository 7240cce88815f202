import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { lazy, Suspense } from "react";
import type { Area } from "#core/areas/areas";
import type { MarketFacts } from "#core/marks/kind";
import { priceText } from "#core/marks/wording";
import { toTick } from "../../../chart/snap.ts";
import type { StoredPlan } from "./PlanBuilder.tsx";
import type { PlanFields } from "./planForm.ts";
import { PlanLine } from "./PlanLine.tsx";

/** Loaded when one is written. */
const PlanBuilder = lazy(async () => ({ default: (await import("./PlanBuilder.tsx")).PlanBuilder }));

interface Props {
  tradable: readonly string[];
  now: number;
  shownPlan: string | undefined;
  onShowPlan(id: string | undefined): void;
  onPlans(plans: StoredPlan[]): void;
  market: MarketFacts;
  rung: string;
  plans: StoredPlan[];
  /** What became of the count a plan rests on, when that has died or is gone. */
  lostOf(plan: StoredPlan["plan"]): string | undefined;
  building: Building | undefined;
  onBuilding(building: Building | undefined): void;
}

/** A plan that is written: one that stands, or a new one with what is known of it. */
export type Building = StoredPlan | { seed: Partial<PlanFields> };

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
export function Plans({ building, onBuilding, plans, shownPlan, onShowPlan, onPlans, lostOf, ...rest }: Props) {
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
          <PlanBuilder
            {...rest}
            key={"seed" in building ? JSON.stringify(building.seed) : building.plan.id}
            stored={"seed" in building ? undefined : building}
            seed={"seed" in building ? building.seed : {}}
            onSaved={(stored) => {
              onPlans([...plans.filter(({ plan }) => plan.id !== stored.plan.id), stored]);
              onShowPlan(stored.plan.id);
              onBuilding(undefined);
            }}
            onRemoved={(id) => {
              onPlans(plans.filter(({ plan }) => plan.id !== id));
              onBuilding(undefined);
            }}
            onClose={() => onBuilding(undefined)}
          />
        </Suspense>
      ) : (
        plans.map((stored) => (
          <PlanLine
            key={stored.plan.id}
            plan={stored.plan}
            market={rest.market}
            lost={lostOf(stored.plan)}
            shown={shownPlan === stored.plan.id}
            onShow={() => onShowPlan(shownPlan === stored.plan.id ? undefined : stored.plan.id)}
            onEdit={() => onBuilding(stored)}
          />
        ))
      )}
    </Box>
  );
}
