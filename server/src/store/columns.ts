import { Column, PrimaryColumn, type ColumnOptions } from 'typeorm';

const id: ColumnOptions = { type: 'varchar', length: 40, charset: 'ascii', collation: 'ascii_bin' };

export const IdKey = (): PropertyDecorator => PrimaryColumn(id as never);
const hash: ColumnOptions = { ...id, length: 64 };
export const HashKey = (): PropertyDecorator => PrimaryColumn(hash as never);
export const HashColumn = (options: ColumnOptions = {}): PropertyDecorator => Column({ ...hash, ...options });

export const IdColumn = (options: ColumnOptions = {}): PropertyDecorator => Column({ ...id, ...options });

/** A value kept as JSON text. */
export const JsonColumn = (options: ColumnOptions = {}): PropertyDecorator =>
  Column({
    type: 'longtext',
    transformer: {
      to: (value: unknown) => (value == null ? null : JSON.stringify(value)),
      from: (text: string | null) => (text === null ? null : (JSON.parse(text) as unknown)),
    },
    ...options,
  });

/** An instant, kept in UTC with milliseconds. */
export const InstantColumn = (options: ColumnOptions = {}): PropertyDecorator =>
  Column({ type: 'datetime', precision: 3, ...options });
