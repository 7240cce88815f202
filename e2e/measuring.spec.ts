import { expect, test, type Page } from "@playwright/test";
import { accessible, chart, clickAt, descend, findByName, handles, signIn, undoAll } from "./desk.ts";

const sheet = (page: Page) => page.getByRole("complementary", { name: "Sheet" });
const lines = (page: Page) => sheet(page).getByRole("list", { name: "The argument" }).getByRole("listitem");
const chosen = (page: Page) => lines(page).getByRole("button", { pressed: true });

const KINDS: readonly (readonly [command: string, said: RegExp, points: [number, number][], more?: true])[] = [
  [
    "Place a projection",
    /^Projection of/,
    [
      [0.15, 0.75],
      [0.4, 0.3],
      [0.5, 0.5],
    ],
  ],
  [
    "Place an extension",
    /^Extension of/,
    [
      [0.15, 0.75],
      [0.4, 0.3],
    ],
  ],
  [
    "Place a measured move",
    /^Measured move of/,
    [
      [0.3, 0.6],
      [0.4, 0.4],
    ],
  ],
  [
    "Place time ratios",
    /^Time ratios of/,
    [
      [0.15, 0.75],
      [0.3, 0.3],
      [0.4, 0.5],
    ],
  ],
  [
    "Place a regression channel",
    /regression channel/,
    [
      [0.2, 0.5],
      [0.5, 0.5],
    ],
  ],
  [
    "Place a channel from three swings",
    /channel, /,
    [
      [0.1, 0.8],
      [0.25, 0.3],
      [0.4, 0.7],
    ],
  ],
  [
    "Place speed lines",
    /^Speed lines of/,
    [
      [0.15, 0.75],
      [0.4, 0.3],
    ],
  ],
  [
    "Place arcs",
    /^Arcs of/,
    [
      [0.15, 0.75],
      [0.4, 0.3],
    ],
  ],
  [
    "Mark a cycle",
    /^Cycle of 3 lows/,
    [
      [0.1, 0.8],
      [0.25, 0.8],
      [0.4, 0.8],
    ],
    true,
  ],
  ["Place an anchored average", /^Average since/, [[0.3, 0.5]]],
  [
    "Mark a divergence",
    /divergence: price/,
    [
      [0.2, 0.7],
      [0.4, 0.8],
    ],
  ],
];

test("every measuring mark is placed by mouse, says what it is, and is taken back", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "loam-fields");
  const before = await lines(page).count();
  for (const [command, said, points, more] of KINDS) {
    await findByName(page, command);
    for (const [x, y] of points) await clickAt(page, x, y);
    if (more) await page.keyboard.press("Escape");
    await expect(lines(page), command).toHaveCount(before + 1);
    await expect(chosen(page)).toContainText(said);
    expect(await handles(page)).toHaveLength(points.length);
    await undoAll(page);
    await expect(lines(page)).toHaveCount(before);
  }
});

test("a projection is placed by keys, dragged, typed and given other ratios", async ({ page }) => {
  await signIn(page, "analyst");
  await descend(page, "loam-fields");
  // The keys go on from where the pointer is.
  const there = (await chart(page).boundingBox())!;
  await page.mouse.move(there.x + there.width * 0.7, there.y + there.height * 0.4);
  await page.keyboard.press("'");
  await expect(page.getByText("Projection: click the start of the leg.")).toBeVisible();
  await expect(chart(page)).toBeFocused();
  // From there ninety bars back, fifty on, and fifteen more.
  for (const [key, times] of [
    ["Shift+ArrowLeft", 9],
    ["Shift+ArrowRight", 5],
    ["Shift+ArrowRight", 2],
  ] as const) {
    for (let i = 0; i < times; i++) await page.keyboard.press(key);
    await page.keyboard.press("Enter");
  }
  await expect(chosen(page)).toContainText("Projection of");
  const said = await chosen(page).textContent();
  const box = (await chart(page).boundingBox())!;
  const [[x, y]] = await handles(page);
  await page.mouse.move(box.x + x, box.y + y);
  await page.mouse.down();
  await page.mouse.move(box.x + x - 40, box.y + y - 45, { steps: 5 });
  await page.mouse.up();
  await expect(chosen(page)).not.toHaveText(said ?? "");
  const from = sheet(page).getByLabel("A, leg from", { exact: true }).last();
  await from.fill("1.5");
  await page.keyboard.press("Enter");
  await expect(chosen(page)).toContainText("Projection of 1.5");
  const ratios = sheet(page).getByLabel("Ratios");
  await ratios.fill("0.5; 100 % golden");
  await page.keyboard.press("Enter");
  await expect(sheet(page).getByText('"golden" is not a number.')).toBeVisible();
  await ratios.fill("0.5; 100 %");
  await page.keyboard.press("Enter");
  const table = sheet(page).getByRole("table");
  await expect(table.getByRole("rowheader")).toHaveText(["50.0 %", "100.0 %"]);
  await accessible(page);
  await undoAll(page);
});
