import type { DispatchHours, MailSecurity, PracticeMood, ReturnBox } from '@scriptum/core/contract';
import { Column, Entity, PrimaryColumn } from 'typeorm';
import { IdColumn, IdKey, InstantColumn, JsonColumn } from '../columns.js';

/** A mail server that a school's messages are handed to, and as whom. */
@Entity('mail_account')
export class MailAccountRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @Column({ type: 'varchar', length: 200 }) name!: string;
  @Column({ type: 'varchar', length: 255 }) host!: string;
  @Column({ type: 'int' }) port!: number;
  @Column({ type: 'varchar', length: 10 }) security!: MailSecurity;
  /** Blank where the server asks for none. */
  @Column({ type: 'varchar', length: 320 }) user!: string;
  /** The password, sealed (see `secrets`). */
  @Column({ type: 'longtext', nullable: true, select: false }) secret?: string | null;
  /** What messages are from. */
  @Column({ type: 'varchar', length: 320 }) address!: string;
  /** Whose own it is; null for the whole school's. */
  @IdColumn({ nullable: true }) ownerId!: string | null;
  @Column({ type: 'int', nullable: true }) perMinute!: number | null;
  /** People, in 24 hours. */
  @Column({ type: 'int', nullable: true }) perDay!: number | null;
  @JsonColumn({ nullable: true }) dkim!: { domain: string; selector: string; publicKey: string } | null;
  /** The private key, sealed. */
  @Column({ type: 'longtext', nullable: true, select: false }) dkimSecret?: string | null;
  @Column({ type: 'int' }) version!: number;
  @InstantColumn() changedAt!: Date;
  @IdColumn({ nullable: true }) changedBy!: string | null;
  /** Before which nothing more is taken, for its pace or its limit. */
  @Column({ type: 'datetime', precision: 6, nullable: true }) openAt!: Date | null;
  /** Where mail that comes back is fetched from, as the same user. */
  @JsonColumn({ nullable: true }) returns!: ReturnBox | null;
  /** Up to where it was looked at: RFC 3501, 2.3.1.1. */
  @JsonColumn({ nullable: true, select: false }) returnsSeen?: { validity: string; uid: number } | null;
  /** When it was looked into last, and why it could not be read. */
  @InstantColumn({ nullable: true }) returnsAt!: Date | null;
  @Column({ type: 'varchar', length: 1000, nullable: true }) returnsFault!: string | null;
}

/** How many people an account wrote to in an hour, counted from 1970. */
@Entity('mail_use')
export class MailUseRow {
  @IdKey() accountId!: string;
  @PrimaryColumn({ type: 'int' }) hour!: number;
  @Column({ type: 'int' }) people!: number;
}

/** Why an account's mail does not go out at all just now: it does not work. */
@Entity('mail_fault')
export class MailFaultRow {
  /** The school's own identity for the way that the server knows by itself. */
  @IdKey() accountId!: string;
  @IdColumn() schoolId!: string;
  /** What the mail server said, or why it could not be asked. */
  @Column({ type: 'varchar', length: 1000 }) fault!: string;
  @InstantColumn() since!: Date;
  /** How often it was tried. */
  @Column({ type: 'int' }) attempts!: number;
  @InstantColumn() nextAttemptAt!: Date;
}

/** Messages of a folio that somebody sent together. */
@Entity('dispatch')
export class DispatchRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @IdColumn() folioId!: string;
  @IdColumn({ nullable: true }) staffId!: string | null;
  @InstantColumn() startedAt!: Date;
  /** When the first one may leave. */
  @InstantColumn() startsAt!: Date;
  /** The only hours in which they leave; null for any. */
  @JsonColumn({ nullable: true }) hours!: DispatchHours | null;
  @Column({ type: 'int', nullable: true }) perMinute!: number | null;
  /** Messages. */
  @Column({ type: 'int' }) total!: number;
  @InstantColumn({ nullable: true }) stoppedAt!: Date | null;
  @IdColumn({ nullable: true }) stoppedBy!: string | null;
  /** Before which nothing more is taken, for its pace or its hours. */
  @Column({ type: 'datetime', precision: 6, nullable: true }) openAt!: Date | null;
}

/** How the practice post behaves for a school; well where nothing is said. */
@Entity('practice_mood')
export class PracticeMoodRow {
  @IdKey() schoolId!: string;
  @Column({ type: 'varchar', length: 20 }) mood!: PracticeMood;
}
