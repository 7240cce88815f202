import { DataTypes, Model, type InferAttributes, type InferCreationAttributes } from "sequelize";

/** A row whose columns are its fields: all tables here are written by hand in the migrations. */
export class Row<T extends Model> extends Model<InferAttributes<T>, InferCreationAttributes<T>> {}

// A definition belongs to one column: the mapper writes the column's name into it.
export const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false });
export const id = () => ({ ...text(36), primaryKey: true });
export const key = (length: number) => ({ ...text(length), primaryKey: true });
/** Milliseconds fit a double exactly, so times are stored as such rather than as strings of BIGINT. */
export const moment = () => ({ type: DataTypes.DOUBLE, allowNull: false });
export const whole = () => ({ type: DataTypes.INTEGER, allowNull: false });
export const real = () => ({ type: DataTypes.DOUBLE, allowNull: false });
export const flag = () => ({ type: DataTypes.BOOLEAN, allowNull: false });
export const bytes = () => ({ type: DataTypes.BLOB("long"), allowNull: true });
export const maybeMoment = () => ({ type: DataTypes.DOUBLE, allowNull: true });
export const json = () => ({ type: DataTypes.JSON, allowNull: false });
export const maybeJson = () => ({ type: DataTypes.JSON, allowNull: true });
