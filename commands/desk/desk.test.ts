import { readFileSync } from "node:fs";
import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { once } from "node:events";
import { afterEach, describe, expect, it } from "vitest";
import { join, openPlans } from "../../server/accounts/joining.ts";
import { closePlans } from "../../server/accounts/plans.ts";
import { failureOf, withTables } from "../../server/testing.ts";
import { calmOn } from "./calm.ts";
import { openDesk } from "./desk.ts";

withTables();

const before = process.env.COMPASS_VAR;
afterEach(() => {
  process.env.COMPASS_VAR = before;
});

describe("a desk of one's own", () => {
  it("keeps its files in its own folder, and says so where another is asked for", async () => {
    process.env.COMPASS_VAR = "/tmp/elsewhere";
    await expect(openDesk("desk")).rejects.toThrow(/COMPASS_VAR says \/tmp\/elsewhere.*var\/desk/);
  });

  it("begins with no plan that anybody may join on", async () => {
    expect(await openPlans()).not.toEqual([]);
    await closePlans();
    expect(await openPlans()).toEqual([]);
    const joining = join({ email: "anybody@meridian.example", name: "Any Body", plan: "free" });
    expect(await failureOf(joining)).toMatchObject({ code: "plan" });
  });

  it("has no stand-ins: its mail waits until it is told whom to hand it to", () => {
    expect(readFileSync("commands/start.ts", "utf8")).toContain("standIns: false");
  });
});

const ask = (port: number) => fetch(`http://127.0.0.1:${port}/outlooks/3`);

describe("while a desk's web server is away", () => {
  it("every address is answered calmly, from the moment the port is free until it is asked for", async () => {
    const web = createServer((_, response) => response.end("the desk")).listen(0, "127.0.0.1");
    await once(web, "listening");
    const { port } = web.address() as AddressInfo;
    const calm = calmOn(port);
    calm.begin();
    expect(await (await ask(port)).text()).toBe("the desk");
    web.closeAllConnections();
    web.close();
    await expect
      .poll(
        () =>
          ask(port).then(
            ({ status }) => status,
            () => 0,
          ),
        { interval: 20 },
      )
      .toBe(503);
    const answer = await ask(port);
    expect(answer.headers.get("Retry-After")).toBe("5");
    expect(answer.headers.get("Cache-Control")).toBe("no-store");
    expect(await answer.text()).toContain("Nothing that was stored is lost");
    await calm.end();
    const next = createServer((_, response) => response.end("the desk again")).listen(port, "127.0.0.1");
    await once(next, "listening");
    expect(await (await ask(port)).text()).toBe("the desk again");
    next.closeAllConnections();
    next.close();
  });
});
