import { useMemo, useState } from "react";
import { distanceTo } from "#core/areas/areas";
import { dismissalOf, markOf, waitingOf } from "#core/finding/answer";
import { FINDING_STEPS, type Found, type FindingStep } from "#core/finding/found";
import type { Mark } from "#core/marks/kind";
import type { MarkStore } from "../marks/markStore.ts";

interface Work {
  facts: readonly Found[];
  marks: readonly Mark[];
  store: MarkStore;
  market: string;
  rung: string;
  /** Nothing can be answered where no answer can be given: in the past. */
  closed: boolean;
  /** Last price and ATR of the rung. */
  close: number;
  atr: number;
  select(ids: string[]): void;
}

export interface Proposals {
  /** What waits on this rung, nearest to price first, and of which step; all of them when none is chosen. */
  waiting: readonly Found[];
  counts: Readonly<Record<FindingStep, number>>;
  step: FindingStep | undefined;
  /** The one that is being answered, while they are walked. */
  current: Found | undefined;
  open: boolean;
  /** How far away, in ATR of the rung, what is taken together lies at most. */
  within: number;
  setWithin(within: number): void;
  near: readonly Found[];
  far: readonly Found[];
  walk(step?: FindingStep): void;
  choose(key: string): void;
  close(): void;
  accept(fact: Found): void;
  adjust(fact: Found): void;
  dismiss(fact: Found): void;
  acceptAbove(): void;
  dismissBelow(): void;
  commands: Readonly<Record<string, (() => void) | undefined>>;
}

/** A day's range or two is what may be met soon (definition our own). */
const WITHIN = 2;

/** The walk through what the machine offers on a rung: each is taken over, taken over and changed, or dismissed. */
export function useProposals({ facts, marks, store, market, rung, closed, close, atr, select }: Work): Proposals {
  const [step, setStep] = useState<FindingStep>();
  const [open, setOpen] = useState(false);
  const [within, setWithin] = useState(WITHIN);
  const [place, setPlace] = useState(0);
  const here = useMemo(
    () =>
      waitingOf(
        facts.filter(({ lineage }) => lineage.some((one) => one.rung === rung)),
        marks,
      ),
    [facts, marks, rung],
  );
  const waiting = useMemo(() => here.filter((fact) => step === undefined || fact.step === step), [here, step]);
  const counts = Object.fromEntries(
    FINDING_STEPS.map((one) => [one, here.filter((fact) => fact.step === one).length]),
  ) as Record<FindingStep, number>;
  const isNear = (fact: Found) => Math.abs(distanceTo(fact, close)) <= within * atr;
  const near = waiting.filter(isNear);
  const far = waiting.filter((fact) => !isNear(fact));
  const current = open ? waiting.at(Math.min(place, waiting.length - 1)) : undefined;
  const take = (list: readonly Found[]): Mark[] => {
    const taken = list.map((fact) => markOf(fact, market, crypto.randomUUID()));
    store.set(...taken);
    return taken;
  };
  const drop = (list: readonly Found[]) =>
    store.set(...list.map((fact) => dismissalOf(fact, market, crypto.randomUUID())));
  const answered = open && !closed;
  return {
    waiting,
    counts,
    step,
    current,
    open,
    within,
    setWithin,
    near,
    far,
    walk(next) {
      setStep(next);
      setPlace(0);
      setOpen(true);
    },
    choose(key) {
      setPlace(
        Math.max(
          0,
          waiting.findIndex((fact) => fact.key === key),
        ),
      );
      setOpen(true);
    },
    close: () => setOpen(false),
    accept: (fact) => void take([fact]),
    adjust: (fact) => select(take([fact]).map(({ id }) => id)),
    dismiss: (fact) => drop([fact]),
    acceptAbove: () => void take(near),
    dismissBelow: () => drop(far),
    commands: {
      proposals: () => {
        if (!open) setOpen(true);
        else setPlace(waiting.length > 0 ? (Math.min(place, waiting.length - 1) + 1) % waiting.length : 0);
      },
      acceptOffer: answered && current ? () => void take([current]) : undefined,
      adjustOffer: answered && current ? () => select(take([current]).map(({ id }) => id)) : undefined,
      dismissOffer: answered && current ? () => drop([current]) : undefined,
      acceptAbove: answered ? () => void take(near) : undefined,
      dismissBelow: answered ? () => drop(far) : undefined,
    },
  };
}
