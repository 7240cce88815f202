import { canSee, type EditionPart, type See } from "#core/edition/parts";
import type { FollowUp, FollowUpName } from "#core/scenarios/events";

const CALL: See = "scenarios";
const ORDER: See = "scenarios+orders";

/** Which parts of a plan show that an event happened: those of an order tell where its prices lay. */
export const EVENT_SEEN_WITH: Readonly<Record<FollowUpName, See>> = {
  step: CALL,
  triggered: CALL,
  invalid: CALL,
  expired: CALL,
  entered: ORDER,
  target: ORDER,
  breakEven: ORDER,
  trailed: ORDER,
  stopped: ORDER,
  completed: ORDER,
  missed: ORDER,
  passed: ORDER,
  cancelled: ORDER,
};

/** Which parts show a field of an event that is shown. */
export const FIELD_SEEN_WITH: Readonly<Record<keyof FollowUp, See>> = {
  event: CALL,
  at: CALL,
  knownAt: CALL,
  price: CALL,
  step: CALL,
  leg: CALL,
  ambiguous: CALL,
  reason: ORDER,
  which: ORDER,
  field: ORDER,
  target: ORDER,
  r: ORDER,
};

/** The fields of an event that ask for more than the event itself. */
export function cutFields(event: FollowUp): { path: keyof FollowUp; see: See }[] {
  const own = EVENT_SEEN_WITH[event.event];
  return (Object.keys(event) as (keyof FollowUp)[])
    .filter((field) => FIELD_SEEN_WITH[field] === ORDER && own !== ORDER)
    .map((path) => ({ path, see: ORDER }));
}

/** What of an event a plan shows; nothing where it does not show that it happened. */
export function eventSeen(event: FollowUp, parts: readonly EditionPart[]): FollowUp | undefined {
  const shows = (see: See | undefined) => see !== undefined && canSee(see, parts);
  if (!shows(EVENT_SEEN_WITH[event.event])) return undefined;
  const seen = Object.entries(event).filter(([field]) => shows(FIELD_SEEN_WITH[field as keyof FollowUp]));
  return Object.fromEntries(seen) as unknown as FollowUp;
}
