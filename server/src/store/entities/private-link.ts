import { Column, Entity } from 'typeorm';
import { HashColumn, IdColumn, IdKey, InstantColumn, JsonColumn } from '../columns.js';

/** What somebody has to know to see the papers behind a link. */
export interface Asked {
  /** As it is asked. */
  readonly title: string;
  readonly isDay: boolean;
  /** HMACs of the right answers, each of a learner whom the message is about. */
  readonly answers: readonly string[];
}

/** The page that a message leads to in place of papers that go along. */
@Entity('private_link')
export class PrivateLinkRow {
  @IdKey() messageId!: string;
  @IdColumn() schoolId!: string;
  @IdColumn() folioId!: string;
  /** SHA-256 of what makes the link unguessable. */
  @HashColumn() tokenHash!: string;
  /** Random; keys what is signed and compared for this link. */
  @HashColumn({ select: false }) secret!: string;
  /** From when it does not work any more, and the last day on which it does (ISO 8601). */
  @InstantColumn() endsAt!: Date;
  @Column({ type: 'varchar', length: 10 }) ends!: string;
  @JsonColumn({ nullable: true }) ask!: Asked | null;
  /** Wrong answers since the last right one. */
  @Column({ type: 'int', default: 0 }) wrong!: number;
  @InstantColumn({ nullable: true }) withdrawnAt!: Date | null;
  @IdColumn({ nullable: true }) withdrawnBy!: string | null;
  /** When somebody first asked to see the papers, when last, and how often. */
  @InstantColumn({ nullable: true }) openedAt!: Date | null;
  @InstantColumn({ nullable: true }) lastOpenedAt!: Date | null;
  @Column({ type: 'int', default: 0 }) opens!: number;
}
