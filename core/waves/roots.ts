import type { Pattern } from "#core/waves/patterns";

/** A root the machine found: its pattern, its turns (indices, start first) and whether it has ended. */
export interface FoundRoot {
  pattern: Pattern;
  turns: number[];
  complete: boolean;
  /** ln likelihood of all turns as this root explains them. */
  score: number;
}

/** Two roots that say the same but for a turn moved to a neighbouring one of its kind. */
export function isNear(a: FoundRoot, b: FoundRoot): boolean {
  return (
    a.pattern === b.pattern &&
    a.complete === b.complete &&
    a.turns.length === b.turns.length &&
    a.turns.every((turn, i) => Math.abs(turn - b.turns[i]) <= 2)
  );
}

/** The best of many, without keeping them all. */
export class Best {
  private readonly kept: FoundRoot[] = [];
  private least = -Infinity;

  constructor(
    private readonly most: number,
    private readonly wanted: (root: FoundRoot) => boolean = () => true,
  ) {}

  offer(pattern: Pattern, a: number, turns: Int16Array, count: number, complete: boolean, score: number): void {
    if (!(score > this.least) || score === -Infinity) return;
    const root = { pattern, turns: [a, ...turns.subarray(0, count)], complete, score };
    if (!this.wanted(root)) return;
    this.kept.push(root);
    if (this.kept.length < 2 * this.most) return;
    this.kept.splice(0, this.kept.length, ...this.sorted().slice(0, this.most));
    this.least = this.kept[this.kept.length - 1].score;
  }

  sorted(): FoundRoot[] {
    return [...this.kept].sort(
      (x, y) => y.score - x.score || x.turns.length - y.turns.length || x.turns.join().localeCompare(y.turns.join()),
    );
  }
}
