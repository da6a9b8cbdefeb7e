import type { WatchPlace } from '@scriptum/core/contract';
import { Column, Entity } from 'typeorm';
import { HashColumn, IdColumn, IdKey, InstantColumn, JsonColumn } from '../columns.js';

/** What a newer version brought. */
export interface Took {
  readonly at: string;
  readonly name: string;
  readonly added: number;
  readonly changed: number;
  readonly missing: number;
}

/** A file of which newer versions are taken over by themselves. */
@Entity('watched_file')
export class WatchedRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @IdColumn() folioId!: string;
  /** The source that it brings newer versions of. */
  @IdColumn() sourceId!: string;
  @JsonColumn() place!: WatchPlace;
  @Column({ type: 'varchar', length: 1000, nullable: true }) sealedPassword!: string | null;
  @Column({ type: 'int' }) everyMinutes!: number;
  @Column({ type: 'varchar', length: 20 }) missing!: 'leave out' | 'keep';
  @Column({ type: 'boolean' }) isOn!: boolean;
  /** What tells the file as it lies there from another one, without reading it; with a `? ` before it while it is not read yet. */
  @Column({ type: 'varchar', length: 600, nullable: true }) stamp!: string | null;
  /** What was looked at last: its hash and its name. */
  @HashColumn({ nullable: true }) seenHash!: string | null;
  @Column({ type: 'varchar', length: 255, nullable: true }) seenName!: string | null;
  @InstantColumn({ nullable: true }) lookedAt!: Date | null;
  @InstantColumn({ nullable: true }) nextAt!: Date | null;
  @JsonColumn({ nullable: true }) took!: Took | null;
  @Column({ type: 'varchar', length: 1000, nullable: true }) fault!: string | null;
  /** Why what was looked at waits for a person: it cannot be read, or had better be looked at first. */
  @Column({ type: 'varchar', length: 1000, nullable: true }) waits!: string | null;
  @InstantColumn() createdAt!: Date;
}
