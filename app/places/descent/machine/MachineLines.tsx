import type { ReactNode } from "react";
import type { WaveEnd } from "#core/candles/answered";
import type { MarketFacts } from "#core/marks/kind";
import { ProposalList } from "./ProposalList.tsx";
import { ReadingLines } from "./ReadingLines.tsx";
import type { Machine } from "./useMachine.ts";

interface Props {
  machine: Machine;
  market: MarketFacts;
  rung: string;
  /** Last price. */
  price: number;
  set: string;
  /** Ends of the waves that living counts say. */
  ends: readonly WaveEnd[];
  answerable: boolean;
  /** What stands before the proposals: the areas. */
  children: ReactNode;
}

/** What the machine says of a rung: where it stands, and what it offers. */
export function MachineLines({
  machine: { findings, proposals, worth, areas, basis, setBasis, ask },
  market,
  rung,
  price,
  set,
  ends,
  answerable,
  children,
}: Props) {
  const reading = findings?.rungs.find((one) => one.rung === rung);
  if (!findings || !reading) return null;
  return (
    <>
      <ReadingLines
        reading={reading}
        day={findings.rungs.find((one) => one.rung === "P1D")}
        market={market}
        price={price}
        areas={areas}
        ends={ends}
        basis={basis}
        onBasis={setBasis}
      />
      {children}
      <ProposalList
        proposals={proposals}
        worth={worth}
        market={market}
        close={price}
        atr={reading.atr}
        answerable={answerable}
        sought={{ params: findings.params, set, onSaved: ask }}
      />
    </>
  );
}
