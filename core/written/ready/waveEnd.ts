import type { ReadySentence } from "#core/written/ready";
import { onTick, signOf, termsWith } from "#core/written/ready/ground";

/** A wave against the trend of a count comes to its target and a shorter rung shifts: the wave after it. */
export const waveEnd: ReadySentence = {
  name: "waveEnd",
  title: "Wave: end of a 2, 4 or B",
  says: "a count's correction at its target, a shorter rung shifts",
  fill(ground) {
    const found = ground.counts.at(0);
    if (!found) return "No live count stands on the charts whose next wave has a target.";
    const { mark, asks } = found;
    const { direction, entry, stop, invalidation, targets, title } = asks;
    const sign = signOf(direction);
    const waits = asks.order === "limit";
    const at = (price: number) => onTick(price, ground);
    return {
      title,
      restsOn: mark,
      terms: termsWith(
        direction,
        {
          if: [
            ...(waits ? [{ when: { on: "touch", price: at(entry) } }] : []),
            { when: { on: "shift", direction: sign > 0 ? "up" : "down", rung: ground.finer } },
          ],
          wrong: at(invalidation),
          leastReward: 1,
        },
        {
          entry: { order: "market" },
          stop: at(stop),
          targets: targets.map((price) => ({ price: at(price), share: 1 / targets.length })),
        },
      ),
    };
  },
};
