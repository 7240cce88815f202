import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { setOf } from "#core/written/sets";
import type { Written } from "#core/written/written";
import { useSession, useSessionState, useWorkspace } from "../session/context.ts";
import { ScenarioLine } from "./ScenarioLine.tsx";
import { newDraft } from "./drafts.ts";

export interface StoredScenarioOnPage {
  scenario: Written;
  version: number;
  /** When it was first written, on the market's clock. */
  writtenAt: number;
}

/** A scenario that is written: what it says so far, and what of it is stored. */
export interface Building {
  draft: Written;
  stored?: StoredScenarioOnPage;
  /** The other side of an either-or, which is saved with it. */
  pair?: Written;
}

interface Props {
  /** What became of the count a scenario rests on, when that has died or is gone. */
  lostOf(scenario: Written): string | undefined;
}

/** The scenarios of a market as one set: the preferred first, and what is left for none of them. */
export function Scenarios({ lostOf }: Props) {
  const session = useSession();
  const shown = useSessionState((state) => state.shownScenario);
  const { desk, now, asOf, scenarios, standings, write } = useWorkspace();
  const { members, neither } = setOf(scenarios.map(({ scenario }) => scenario));
  const storedOf = (id: string) => scenarios.find(({ scenario }) => scenario.id === id);
  return (
    <Box component="section" aria-label="Scenarios" sx={{ borderTop: 1, borderColor: "divider", mt: 2, pt: 1.5 }}>
      <Box sx={{ display: "flex", alignItems: "baseline", justifyContent: "space-between" }}>
        <Typography variant="h2">Scenarios</Typography>
        <Button variant="text" title="/" onClick={() => write(newDraft(now))}>
          Write one
        </Button>
      </Box>
      {members.map((scenario) => (
        <ScenarioLine
          key={scenario.id}
          scenario={scenario}
          market={desk.market}
          lost={lostOf(scenario)}
          pair={members.find(({ id }) => id === scenario.pair)?.title}
          standing={standings.find(({ scenarioId }) => scenarioId === scenario.id)}
          alertable={asOf === undefined}
          shown={shown === scenario.id}
          onShow={() => session.set({ shownScenario: shown === scenario.id ? undefined : scenario.id })}
          onEdit={() => {
            const stored = storedOf(scenario.id);
            session.set({ building: { draft: scenario, ...(stored ? { stored } : {}) } });
          }}
        />
      ))}
      {members.length > 1 && (
        <Typography variant="body2" color="text.secondary" sx={{ mt: 0.75 }}>
          {neither >= 0 ? `Neither of them: ${neither} %.` : `Their weights sum to ${100 - neither} %: too much.`}
        </Typography>
      )}
    </Box>
  );
}
