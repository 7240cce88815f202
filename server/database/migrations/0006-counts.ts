import { QueryTypes, type QueryInterface } from "sequelize";

interface Row {
  id: string;
  props: Record<string, unknown> | string;
  anchors: unknown[] | string;
}

/** A count of waves is a tree of any pattern now; an impulse is one of them, with nothing said of its inside. */
export async function up({ context }: { context: QueryInterface }): Promise<void> {
  const rows = await context.sequelize.query<Row>(`SELECT id, props, anchors FROM marks WHERE kind = 'impulse'`, {
    type: QueryTypes.SELECT,
  });
  for (const { id, props, anchors } of rows) {
    const {
      degree = "Intermediate",
      scale = "arithmetic",
      overlap = 0,
      basis = "wick",
    } = read<Record<string, unknown>>(props);
    const pivots = Array.from({ length: Math.min(6, read<unknown[]>(anchors).length) }, (_, i) => i);
    const root = { pattern: "impulse", pivots, inner: [null, null, null, null, null] };
    const whole = { degree, scale, overlap, basis, role: "preferred", weight: 0, shown: 3, root };
    await context.sequelize.query(`UPDATE marks SET kind = 'count', props = ? WHERE id = ?`, {
      replacements: [JSON.stringify(whole), id],
    });
  }
}

/** What only a tree can say is of no use then, but it is kept with the mark. */
export async function down({ context }: { context: QueryInterface }): Promise<void> {
  await context.sequelize.query(`UPDATE marks SET kind = 'impulse' WHERE kind = 'count'`);
}

function read<T>(json: T | string): T {
  return typeof json === "string" ? (JSON.parse(json) as T) : json;
}
