import type { Subject } from "#core/written/subject";
import type { WrittenBand, WrittenCondition, WrittenPrice, WrittenStep } from "#core/written/written";

/** Steps that make sense for something on a chart. */
export interface StepOffer {
  /** "sweep and return"; unique among the offers of one subject. */
  name: string;
  steps: WrittenStep[];
}

export interface OfferFacts {
  close: number;
  /** The rung that is worked on, and a shorter one where there is one. */
  rung: string;
  finer: string;
}

/** Bars in which price comes back to what it broke (definition our own). */
const RETURNS = 20;

/** The steps offered for a price or a band, most usual first. */
export function stepOffers(subject: Subject, facts: OfferFacts): StepOffer[] {
  return subject.band ? bandOffers(subject, subject.band, facts) : priceOffers(subject.price, subject, facts);
}

function priceOffers(price: WrittenPrice, subject: Subject, { close, rung, finer }: OfferFacts): StepOffer[] {
  const isAbove = subject.bottom > close;
  const beyond = isAbove ? "above" : "below";
  const back = isAbove ? "below" : "above";
  const closes = (side: string, own: string): WrittenCondition => ({ on: "close", side, price, rung: own });
  return [
    { name: "touch", steps: [{ when: { on: "touch", price } }] },
    {
      name: "sweep and return",
      steps: [{ when: { on: "sweep", side: isAbove ? "high" : "low", price, rung, within: 1 } }],
    },
    { name: "close beyond", steps: [{ when: closes(beyond, rung) }] },
    {
      name: "close beyond, come back and hold",
      steps: [
        { when: closes(beyond, rung) },
        { when: { on: "touch", price }, within: RETURNS },
        { when: closes(beyond, finer), within: RETURNS },
      ],
    },
    {
      name: "close beyond and fail",
      steps: [{ when: closes(beyond, rung) }, { when: closes(back, rung), within: 3 }],
    },
    { name: "hold there for 3 closes", steps: [{ when: { on: "hold", side: back, price, rung, bars: 3 } }] },
  ];
}

function bandOffers(subject: Subject, band: NonNullable<WrittenBand>, facts: OfferFacts): StepOffer[] {
  const { close, rung, finer } = facts;
  const { bottom, top, low = null, high = null } = subject;
  // Price comes to it from above: it is to hold from below.
  const isBelow = (bottom + top) / 2 < close;
  const [far, away, turn] = isBelow ? [low, "above", "up"] : [high, "below", "down"];
  const touch: WrittenStep = { when: { on: "touch", band } };
  return [
    { name: "touch", steps: [touch] },
    {
      name: "touch, leave, touch again",
      steps: [touch, { when: { on: "leave", band, by: top - bottom, side: away } }, touch],
    },
    {
      name: "shift on a lower rung inside",
      steps: [touch, { when: { on: "shift", direction: turn, rung: finer, inside: band } }],
    },
    {
      name: "sweep its far edge and return",
      steps: [{ when: { on: "sweep", side: isBelow ? "low" : "high", price: far, rung, within: 1 } }],
    },
    {
      name: "close beyond it",
      steps: [{ when: { on: "close", side: isBelow ? "below" : "above", price: far, rung } }],
    },
    {
      name: "turning candle there",
      steps: [touch, { when: { on: "candle", pattern: "either", rung: finer, at: band } }],
    },
  ];
}

/** What must hold, or must not come, about something on a chart. */
export function guardOffers(
  subject: Subject,
  { close, rung }: OfferFacts,
): { name: string; condition: WrittenCondition }[] {
  const { bottom, low, high, price } = subject;
  const isAbove = bottom > close;
  const side = isAbove ? "below" : "above";
  const at = (isAbove ? high : low) ?? price;
  return [
    { name: `closes stay ${side}`, condition: { on: "close", side, price: at, rung } },
    {
      name: `a close ${isAbove ? "above" : "below"}`,
      condition: { on: "close", side: isAbove ? "above" : "below", price: at, rung },
    },
    {
      name: "price touches it",
      condition: subject.band ? { on: "touch", band: subject.band } : { on: "touch", price },
    },
  ];
}
