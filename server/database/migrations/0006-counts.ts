import { QueryTypes, type QueryInterface } from "sequelize";
import { kindOf } from "#core/marks/registry";

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
    const whole = kindOf({ kind: "count" }).readProps(
      read<Record<string, unknown>>(props),
      read<unknown[]>(anchors).length,
    );
    await context.sequelize.query(`UPDATE marks SET kind = 'count', props = ? WHERE id = ?`, {
      replacements: [JSON.stringify(whole ?? read(props)), id],
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
