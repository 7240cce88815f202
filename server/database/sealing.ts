import type { Model, ModelStatic, SaveOptions, Transaction } from "sequelize";
import { canonicalText } from "../canonical.ts";
import { isSigned, publicKeyOf, signerOf } from "../signing.ts";

/** Models whose rows are sealed, with the columns that the seal is over. */
const SEALED = new Map<string, { model: ModelStatic<Model & { seal: string }>; columns: readonly string[] }>();

/** What a row says in its sealed columns, as it is read and as it is written. */
function sealedContent(columns: readonly string[], valueOf: (name: string) => unknown): Record<string, unknown> {
  const plain = (value: unknown) => (typeof value === "boolean" ? Number(value) : (value ?? null));
  return Object.fromEntries(columns.map((name) => [name, plain(valueOf(name))]));
}

const contentOf = (row: Model, columns: readonly string[]) => sealedContent(columns, (name) => row.get(name));

/** What is signed of a row. */
const sealedText = (model: string, content: object) => `even-compass-row-1 ${model} ${canonicalText(content)}`;

function sealOf(model: string, content: object): string {
  const { keyId, sign } = signerOf();
  return `${keyId} ${sign(sealedText(model, content))}`;
}

function holds(model: string, content: object, seal: string): boolean {
  const [keyId = "", signature = ""] = seal.split(" ");
  return isSigned(sealedText(model, content), signature, publicKeyOf(keyId));
}

/** Whether what stood in a row before it is written was the desk's own. */
function wasSealed(row: Model, name: string, columns: readonly string[]): boolean {
  const before = (column: string) => row.previous(column as never) as unknown;
  return holds(name, sealedContent(columns, before), String(before("seal")));
}

/**
 * Rows of a model are signed with the record's key whenever the desk writes one: who has the database alone cannot
 * write one that holds, and what somebody else wrote is not sealed by the next change of it. A write that goes past its
 * rows would leave them unsealed, so it is refused.
 */
export function sealRows<M extends Model & { seal: string }>(
  model: ModelStatic<M>,
  columns: readonly (keyof M & string)[],
): void {
  SEALED.set(model.name, { model, columns });
  const seal = (row: M) => row.set("seal", sealOf(model.name, contentOf(row, columns)) as never);
  model.addHook("beforeSave", (row, { fields, isFormer }: { fields?: string[]; isFormer?: boolean }) => {
    if (!row.isNewRecord && !isFormer && !wasSealed(row as M, model.name, columns)) return;
    const before = (row as M).seal;
    seal(row as M);
    if ((row as M).seal !== before && fields && !fields.includes("seal")) fields.push("seal");
  });
  model.addHook("beforeBulkCreate", (rows) => (rows as readonly Model[]).forEach((row) => seal(row as M)));
  model.addHook("beforeBulkUpdate", (options) => {
    const { attributes = {} } = options as { attributes?: object };
    if (Object.keys(attributes).some((name) => columns.includes(name as never)))
      throw new Error(`Rows of ${model.name} are sealed: change them one by one.`);
  });
}

/** Whether a row is as the desk wrote it. */
export function isSealed(row: Model & { seal: string }): boolean {
  const known = SEALED.get(row.constructor.name);
  return known !== undefined && holds(row.constructor.name, contentOf(row, known.columns), row.seal);
}

/** Stores a row that says what the desk worked out itself, whatever stood in it. */
export const sealAnew = <M extends Model>(row: M, transaction?: Transaction): Promise<M> =>
  row.save({ isFormer: true, ...(transaction ? { transaction } : {}) } as SaveOptions);

/** Seals rows that were there before rows were sealed. */
export async function sealFormer(): Promise<void> {
  for (const { model } of SEALED.values())
    for (const row of await model.findAll({ where: { seal: "" } as never })) await sealAnew(row);
}

/** Rows that are not as the desk wrote them, in words. */
export async function unsealedRows(): Promise<string[]> {
  const found: string[] = [];
  for (const { model } of SEALED.values())
    for (const row of await model.findAll()) if (!isSealed(row)) found.push(`${model.tableName}: ${nameOf(row)}`);
  return found;
}

/** A row as it is told to people: by its name where it has one, by its key otherwise. */
function nameOf(row: Model): string {
  const { name, subject, id, number } = row.get() as Record<string, unknown>;
  return String(name ?? subject ?? id ?? number);
}
