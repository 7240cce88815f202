import { readFileSync } from "node:fs";
import semver from "semver";
import { expect, it } from "vitest";

interface Lock {
  packages: Record<string, { version?: string; engines?: { node?: string } | string[]; optional?: boolean }>;
}

const { packages } = JSON.parse(readFileSync("package-lock.json", "utf8")) as Lock;
const { engines } = JSON.parse(readFileSync("package.json", "utf8")) as { engines: { node: string } };

it("every locked package runs on the oldest Node.js that is promised", () => {
  const oldest = semver.minVersion(engines.node)?.version ?? "";
  expect(oldest).toBe("20.19.0");
  const wanting = Object.entries(packages).filter(
    ([, { engines: own }]) => own && !Array.isArray(own) && own.node && !semver.satisfies(oldest, own.node),
  );
  expect(wanting.map(([name, { version, engines: own }]) => `${name} ${version} wants ${JSON.stringify(own)}`)).toEqual(
    [],
  );
  expect(Object.keys(packages).length).toBeGreaterThan(300);
});
