import type { RouteConfigEntry } from "@react-router/dev/routes";
import { describe, expect, it } from "vitest";
import routes from "../../routes.ts";
import { loader } from "./openapi.ts";

interface Document {
  openapi: string;
  paths: Record<string, Record<string, { parameters?: { name: string; in: string }[]; responses: object }>>;
}

describe("the document of what programs may ask", () => {
  it("has the addresses there are, each with its parameters and what it answers", async () => {
    const document = (await loader().json()) as Document;
    // OpenAPI Specification 3.1.0, section 4.8.1: the version, what it is of, and its paths.
    expect(document).toMatchObject({ openapi: "3.1.0", info: { title: "Even Compass", version: "1" } });
    const own = (routes as RouteConfigEntry[]).flatMap(({ path = "" }) =>
      path.startsWith("api/") && path !== "api/openapi.json" ? [`/${path.replace(/:([a-z]+)/g, "{$1}")}`] : [],
    );
    expect(Object.keys(document.paths).sort()).toEqual(own.sort());
    for (const [path, methods] of Object.entries(document.paths))
      for (const { parameters = [], responses } of Object.values(methods)) {
        // Section 4.8.9: each name in braces has its parameter, and there is at least one answer.
        const named = [...path.matchAll(/\{([a-z]+)\}/g)].map(([, name]) => name);
        expect(parameters.filter((one) => one.in === "path").map(({ name }) => name)).toEqual(named);
        expect(Object.keys(responses)).toEqual(expect.arrayContaining(["200", "401"]));
      }
  });
});
