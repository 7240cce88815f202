import { arrayMove } from "@dnd-kit/sortable";
import { get, set } from "react-hook-form";
import { isBind, isFollowed, type WrittenStep, type WrittenTerms } from "#core/written/written";

/**
 * Terms with one condition moved to another place. What is bound to a step goes on being bound to that step, wherever
 * it has gone.
 */
export function moveStep(terms: WrittenTerms, path: string, from: number, to: number): WrittenTerms {
  const next = structuredClone(terms);
  const list = get(next, path) as unknown[];
  set(next, path, arrayMove(list, from, to));
  if (path !== "if") return next;
  const order = arrayMove(
    list.map((_, i) => i + 1),
    from,
    to,
  );
  return renumbered(next, (step) => order.indexOf(step) + 1 || step) as WrittenTerms;
}

function renumbered(value: unknown, now: (step: number) => number): unknown {
  if (isFollowed(value) || typeof value !== "object" || value === null) return value;
  if (Array.isArray(value)) return value.map((one) => renumbered(one, now));
  if (isBind(value as never)) return { ...value, step: now((value as { step: number }).step) };
  const condition = value as Partial<WrittenStep["when"]>;
  if (condition.on === "beyondBar") return { ...condition, of: now(condition.of as number) };
  return Object.fromEntries(Object.entries(value).map(([name, one]) => [name, renumbered(one, now)]));
}
