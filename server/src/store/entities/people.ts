import type { Clearing } from '@scriptum/core/contract';
import { Column, Entity } from 'typeorm';
import { HashKey, IdColumn, IdKey, InstantColumn } from '../columns.js';

/** The tenant. */
@Entity('school')
export class School {
  @IdKey() id!: string;
  @Column({ type: 'varchar', length: 200 }) name!: string;
  /** Of the IANA database; says which day it is. */
  @Column({ type: 'varchar', length: 64, default: 'UTC' }) timeZone!: string;
  /** Whether papers leave without being cleared, once cleared, or once somebody else than who pressed them has cleared them. */
  @Column({ type: 'varchar', length: 10, default: 'free' }) clearing!: Clearing;
  /** The mail account that is on; null for the way that the server knows by itself. */
  @IdColumn({ nullable: true }) accountId!: string | null;
  @InstantColumn() createdAt!: Date;
}

@Entity('staff')
export class Staff {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  /** Lower case; unique over all schools, since it is what people sign in with. */
  @Column({ type: 'varchar', length: 254 }) email!: string;
  @Column({ type: 'varchar', length: 200 }) name!: string;
  /** argon2id, in PHC string format. */
  @Column({ type: 'varchar', length: 255 }) passwordHash!: string;
}

@Entity('session')
export class SessionRow {
  /** SHA-256 of the session's identity, so that a copy of the table signs nobody in. */
  @HashKey() id!: string;
  @Column({ type: 'longtext' }) data!: string;
  /** Whose session it is; others are not kept. */
  @IdColumn() staffId!: string;
  @InstantColumn() startedAt!: Date;
  @InstantColumn() expiresAt!: Date;
}

/** Who did what, when. */
@Entity('event')
export class EventRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @IdColumn({ nullable: true }) folioId!: string | null;
  @IdColumn({ nullable: true }) staffId!: string | null;
  @InstantColumn() at!: Date;
  @Column({ type: 'varchar', length: 60 }) kind!: string;
  @Column({ type: 'int', nullable: true }) count!: number | null;
}
