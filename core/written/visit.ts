import { isFollowed } from "#core/written/written";

/** Everything that terms are made of, by its path; what marks say is one thing. */
export function visit(value: unknown, path: string, seen: (value: unknown, path: string) => void): void {
  seen(value, path);
  if (typeof value !== "object" || value === null || isFollowed(value)) return;
  const within = Array.isArray(value)
    ? value.map((one: unknown, i): [string, unknown] => [`${path}[${i}]`, one])
    : Object.entries(value).map(([name, one]): [string, unknown] => [path === "" ? name : `${path}.${name}`, one]);
  for (const [at, one] of within) if (one !== undefined) visit(one, at, seen);
}
