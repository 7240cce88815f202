import type { Wave } from "#core/waves/wave";

/**
 * A second checker of the rules of waves, written from the published rules alone and sharing nothing with the first:
 * R. N. Elliott, The Wave Principle (1938); Frost and Prechter, Elliott Wave Principle (1978), chapters 1 and 2, from
 * memory.
 * Names of broken rules, parents first. Lengths are differences of prices, or of their logarithms with `log`.
 */
export function brokenRules(wave: Wave, log = false, where = wave.pattern as string): string[] {
  const p = wave.pivots.map(({ price }) => price);
  const up = p.length < 2 || p[1] > p[0];
  // Everything below is said of a wave that goes up.
  const v = up ? p : p.map((price) => -price);
  const leg = (n: number) => Math.abs(log ? Math.log(p[n] / p[n - 1]) : p[n] - p[n - 1]);
  const broken: string[] = [];
  const demand = (name: string, holds: boolean) => {
    if (!holds) broken.push(`${where}: ${name}`);
  };
  for (let i = 1; i < p.length; i++) {
    demand("time goes on", wave.pivots[i].time > wave.pivots[i - 1].time);
    demand("turn", i % 2 === 1 ? v[i] > v[i - 1] : v[i] < v[i - 1]);
  }
  const has = (pivot: number) => p.length > pivot;
  const inside = wave.inner;
  const kind = (i: number) => inside[i]?.pattern;
  const ended = (i: number) => inside[i] !== undefined && inside[i].pivots.length === COUNT[inside[i].pattern] + 1;
  const zigzags = ["zigzag", "doubleZigzag", "tripleZigzag"];
  const corrections = [...zigzags, "flat", "doubleThree", "tripleThree"];
  const triangles = ["triangle", "triangleExpanding"];
  const may = (i: number, names: readonly string[]) =>
    demand(`wave ${i + 1} is a ${kind(i)}`, kind(i) === undefined || names.includes(kind(i) ?? ""));
  const five = () => {
    if (has(2)) demand("2 beyond the start of 1", v[2] >= v[0]);
    if (has(3)) demand("3 beyond 1", v[3] > v[1]);
  };
  const near = 1e-9;
  switch (wave.pattern) {
    case "impulse":
      five();
      if (has(4)) demand("4 in the territory of 1", v[4] >= v[1]);
      if (has(5)) demand("3 shortest", !(leg(3) < leg(1) * (1 - near) && leg(3) < leg(5) * (1 - near)));
      may(0, ["impulse", "leadingDiagonal", "leadingDiagonalExpanding"]);
      may(1, corrections);
      may(2, ["impulse"]);
      may(3, [...corrections, ...triangles]);
      may(4, ["impulse", "endingDiagonal", "endingDiagonalExpanding"]);
      if (has(5) && v[5] <= v[3] && inside[4])
        demand(
          "truncated without five",
          ended(4) && COUNT[inside[4].pattern] === 5 && !triangles.includes(kind(4) ?? ""),
        );
      break;
    case "leadingDiagonal":
    case "leadingDiagonalExpanding":
    case "endingDiagonal":
    case "endingDiagonalExpanding": {
      five();
      if (has(4)) demand("4 does not overlap 1", v[4] < v[1]);
      if (has(4)) demand("4 beyond 2", v[4] >= v[2]);
      const expanding = wave.pattern.endsWith("Expanding");
      for (const [a, b] of [
        [3, 1],
        [4, 2],
        [5, 3],
      ])
        if (has(a)) demand(`${a} against ${b}`, expanding ? leg(a) > leg(b) : leg(a) < leg(b));
      // Lines that meet ahead come closer with time: the lower one rises faster than the upper one.
      if (has(4)) {
        const at = wave.pivots.map(({ time }) => time);
        const h = log ? v.map((value) => (up ? Math.log(value) : -Math.log(-value))) : v;
        const over = (h[3] - h[1]) * (at[4] - at[2]);
        const under = (h[4] - h[2]) * (at[3] - at[1]);
        demand("lines", expanding ? over > under : under > over);
      }
      const leading = wave.pattern.startsWith("leading");
      if (has(5) && wave.pattern !== "endingDiagonal") demand("5 beyond 3", v[5] > v[3]);
      for (let i = 0; i < 5; i++) may(i, leading && i % 2 === 0 ? [...zigzags, "impulse"] : zigzags);
      break;
    }
    case "zigzag":
      if (has(2)) demand("B back to the start", v[2] > v[0]);
      may(0, ["impulse", "leadingDiagonal", "leadingDiagonalExpanding"]);
      may(1, [...corrections, ...triangles]);
      may(2, ["impulse", "endingDiagonal", "endingDiagonalExpanding"]);
      break;
    case "flat":
      if (has(2)) demand("B under 90 %", leg(2) >= 0.9 * leg(1) * (1 - near));
      may(0, corrections);
      may(1, corrections);
      may(2, ["impulse", "endingDiagonal", "endingDiagonalExpanding"]);
      break;
    case "triangle":
      if (has(3)) demand("C beyond A", v[3] <= v[1]);
      if (has(4)) demand("D beyond B", v[4] >= v[2]);
      if (has(5)) demand("E beyond C", v[5] <= v[3]);
      triangleInside();
      break;
    case "triangleExpanding":
      if (has(3)) demand("C within A", v[3] > v[1]);
      if (has(4)) demand("D within B", v[4] < v[2]);
      if (has(5)) demand("E within C", v[5] > v[3]);
      triangleInside();
      break;
    case "doubleZigzag":
    case "tripleZigzag":
      if (has(2)) demand("X beyond the start of W", v[2] >= v[0]);
      if (has(3)) demand("Y within W", v[3] > v[1]);
      if (has(4)) demand("second X beyond the start of Y", v[4] >= v[2]);
      if (has(5)) demand("Z within Y", v[5] > v[3]);
      for (let i = 0; i < COUNT[wave.pattern]; i++) {
        const beforeLast = i === COUNT[wave.pattern] - 2;
        may(i, i % 2 === 0 ? ["zigzag"] : beforeLast ? [...corrections, ...triangles] : corrections);
      }
      break;
    case "doubleThree":
    case "tripleThree": {
      const last = COUNT[wave.pattern] - 1;
      for (let i = 0; i <= last; i++)
        may(i, i % 2 === 1 ? corrections : i === last ? ["zigzag", "flat", "triangle"] : ["zigzag", "flat"]);
      const actions = [0, 2, 4].filter((i) => i <= last).map(kind);
      demand("zigzags alone", !actions.every((name) => name === "zigzag"));
      break;
    }
  }
  if (p.length === COUNT[wave.pattern] + 1) demand("whole goes back", v[v.length - 1] > v[0]);
  inside.forEach((child, i) => {
    if (!child) return;
    const [first, end] = [child.pivots[0], child.pivots[child.pivots.length - 1]];
    demand(
      `inside of ${i + 1} starts elsewhere`,
      i < p.length && first.price === p[i] && first.time === wave.pivots[i].time,
    );
    if (i + 1 < p.length)
      demand(
        `inside of ${i + 1} ends elsewhere`,
        ended(i) && end.price === p[i + 1] && end.time === wave.pivots[i + 1].time,
      );
    else demand(`inside of ${i + 1} has ended`, !ended(i));
    if (child.pivots.length > 1)
      demand(
        `inside of ${i + 1} goes the other way`,
        child.pivots[1].price > child.pivots[0].price === (up === (i % 2 === 0)),
      );
    broken.push(...brokenRules(child, log, `${where} > ${i + 1} ${child.pattern}`));
  });
  return broken;

  function triangleInside(): void {
    for (let i = 0; i < 5; i++)
      may(i, i === 4 ? [...corrections, ...triangles] : i < 2 ? [...zigzags, "flat"] : corrections);
    const others = inside.filter((child) => child && !zigzags.includes(child.pattern));
    demand("two waves of a triangle are no zigzags", others.length < 2);
  }
}

const COUNT: Record<Wave["pattern"], number> = {
  impulse: 5,
  leadingDiagonal: 5,
  leadingDiagonalExpanding: 5,
  endingDiagonal: 5,
  endingDiagonalExpanding: 5,
  zigzag: 3,
  flat: 3,
  triangle: 5,
  triangleExpanding: 5,
  doubleZigzag: 3,
  tripleZigzag: 5,
  doubleThree: 3,
  tripleThree: 5,
};
