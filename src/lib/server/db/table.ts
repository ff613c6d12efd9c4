import {
	DataTypes,
	ForeignKeyConstraintError,
	UniqueConstraintError,
	type FindOptions,
	type Model,
	type ModelAttributeColumnOptions,
	type ModelStatic,
	type WhereOptions
} from 'sequelize';
import { db } from './connection';
import { InUseError, TakenError } from './taken';
import type { Unit } from './transaction';

type Column = ModelAttributeColumnOptions;
type Columns<Row> = { [Name in keyof Row]-?: Column };
/** Each column is a value, or one of a list of values. */
type Where<Row> = { [Name in keyof Row]?: Row[Name] | readonly Row[Name][] };

// Each column gets an object of its own: Sequelize writes the column's name into it.
export const id = (): Column => ({ type: DataTypes.CHAR(36), primaryKey: true });
export const ref = (): Column => ({ type: DataTypes.CHAR(36), allowNull: false });
export const text = (): Column => ({ type: DataTypes.STRING, allowNull: false });
export const long = (): Column => ({ type: DataTypes.TEXT('long'), allowNull: false });
export const bytes = (): Column => ({ type: DataTypes.BLOB('long'), allowNull: false });
export const time = (): Column => ({ type: DataTypes.DATE(3), allowNull: false });
export const whole = (): Column => ({ type: DataTypes.INTEGER, allowNull: false });
export const big = (): Column => ({ type: DataTypes.BIGINT, allowNull: false });
export const number = (): Column => ({ type: DataTypes.DECIMAL, allowNull: false });
export const real = (): Column => ({ type: DataTypes.DOUBLE, allowNull: false });
export const flag = (): Column => ({ type: DataTypes.BOOLEAN, allowNull: false });
export const optional = (column: Column): Column => ({ ...column, allowNull: true });
export const named = (field: string, column: Column): Column => ({ ...column, field });
/** Part of a primary key of several columns. */
export const keyed = (column: Column): Column => ({ ...column, primaryKey: true });

/** Rows in one statement; the driver is never given more than this at once. */
const ROWS_AT_ONCE = 200;

export interface Choice<Row> {
	order?: readonly (readonly [keyof Row & string, 'ASC' | 'DESC'])[];
	limit?: number;
	offset?: number;
	unit?: Unit;
	/** Whether others wait until the unit ends: a read that sees what was committed meanwhile. */
	lock?: boolean;
}

/** One table with typed rows: the only place where rows and Sequelize's models meet. */
export class Table<Row extends object> {
	private readonly flags: readonly (keyof Row)[];

	constructor(
		readonly name: string,
		private readonly columns: Columns<Row>
	) {
		const names = Object.keys(columns) as (keyof Row)[];
		this.flags = names.filter((column) => columns[column].type === DataTypes.BOOLEAN);
	}

	private get model(): ModelStatic<Model<Row, Row>> {
		const sequelize = db();
		if (!sequelize.isDefined(this.name)) {
			sequelize.define(this.name, this.columns, { tableName: this.name });
		}
		return sequelize.models[this.name] as ModelStatic<Model<Row, Row>>;
	}

	async all(where: Where<Row>, choice: Choice<Row> = {}): Promise<Row[]> {
		return this.read(optionsOf(where, choice));
	}

	async one(where: Where<Row>, choice: Choice<Row> = {}): Promise<Row | undefined> {
		const [row] = await this.all(where, { ...choice, limit: 1 });
		return row;
	}

	/** Only some columns of {@link all}: long ones stay where they are. */
	async some<Name extends keyof Row & string>(
		names: readonly Name[],
		where: Where<Row>,
		choice: Choice<Row> = {}
	): Promise<Pick<Row, Name>[]> {
		return this.read({ ...optionsOf(where, choice), attributes: [...names] });
	}

	private async read(options: FindOptions<Row>): Promise<Row[]> {
		const rows = (await this.model.findAll(options)) as unknown as Row[];
		if (this.flags.length === 0) return rows;
		// The driver gives flags as 0 and 1.
		return rows.map((row) => ({
			...row,
			...Object.fromEntries(
				this.flags.filter((name) => name in row).map((name) => [name, Boolean(row[name])])
			)
		}));
	}

	count(where: Where<Row> = {}, unit?: Unit): Promise<number> {
		return this.model.count({ where: where as WhereOptions<Row>, transaction: unit ?? null });
	}

	/** Adds rows. Throws {@link TakenError} where a unique key stands against one. */
	async add(rows: Row | readonly Row[], unit?: Unit): Promise<void> {
		const list = Array.isArray(rows) ? (rows as readonly Row[]) : [rows as Row];
		for (let at = 0; at < list.length; at += ROWS_AT_ONCE) {
			await sayTaken(() =>
				this.model.bulkCreate(list.slice(at, at + ROWS_AT_ONCE) as never, {
					transaction: unit ?? null
				})
			);
		}
	}

	/** Changes columns of some rows and tells how many there were. Throws {@link TakenError}. */
	async change(where: Where<Row>, values: Partial<Row>, unit?: Unit): Promise<number> {
		const [changed] = await sayTaken(() =>
			this.model.update(values as never, {
				where: where as WhereOptions<Row>,
				transaction: unit ?? null
			})
		);
		return changed;
	}

	/** Removes rows and tells how many there were. Throws {@link InUseError} where others stand on one. */
	async remove(where: Where<Row>, unit?: Unit): Promise<number> {
		try {
			return await this.model.destroy({
				where: where as WhereOptions<Row>,
				transaction: unit ?? null
			});
		} catch (error) {
			if (error instanceof ForeignKeyConstraintError) throw new InUseError();
			throw error;
		}
	}
}

function optionsOf<Row extends object>(
	where: Where<Row>,
	{ order, limit, offset, unit, lock }: Choice<Row>
): FindOptions<Row> {
	return {
		where: where as WhereOptions<Row>,
		raw: true,
		...(order ? { order: order.map(([name, way]) => [name, way]) } : {}),
		...(limit === undefined ? {} : { limit }),
		...(offset === undefined ? {} : { offset }),
		...(unit ? { transaction: unit, ...(lock ? { lock: unit.LOCK.UPDATE } : {}) } : {})
	};
}

/** Runs what writes. Throws {@link TakenError} where a unique key stands against it. */
export async function sayTaken<T>(work: () => Promise<T>): Promise<T> {
	try {
		return await work();
	} catch (error) {
		if (!(error instanceof UniqueConstraintError)) throw error;
		throw new TakenError(Object.keys(error.fields).join(' '));
	}
}
