import type { Given } from '@scriptum/core/form';
import type { CopyState } from '@scriptum/core/contract';
import { Column, Entity } from 'typeorm';
import { HashColumn, IdColumn, IdKey, InstantColumn, JsonColumn } from '../columns.js';

/** Where a form is answered: the version that is published, and its link. */
@Entity('form_door')
export class FormDoorRow {
  @IdKey() writingId!: string;
  @IdColumn() schoolId!: string;
  @IdColumn() folioId!: string;
  /** Stands in the form's link, which anybody may have. */
  @IdColumn() token!: string;
  @Column({ type: 'int' }) version!: number;
  /** Answers are taken, as far as the form's own terms say so. */
  @Column({ type: 'boolean' }) isOpen!: boolean;
  /** How many there are; counted here, so that a form that takes so many is full at the right one. */
  @Column({ type: 'int', default: 0 }) answers!: number;
  @InstantColumn() publishedAt!: Date;
  @IdColumn({ nullable: true }) publishedBy!: string | null;
}

/** What somebody answered. Its cells stand in its entry. */
@Entity('form_answer')
export class FormAnswerRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @IdColumn() folioId!: string;
  @IdColumn() writingId!: string;
  @IdColumn() entryId!: string;
  /** Given out with the form: one for each answer, however often it is sent. */
  @IdColumn() answerKey!: string;
  /** Of the form that was answered. */
  @Column({ type: 'int' }) version!: number;
  @Column({ type: 'varchar', length: 40 }) language!: string;
  @JsonColumn() given!: Given;
  /** By what it counts once. */
  @HashColumn({ nullable: true }) onceKey!: string | null;
  @InstantColumn() receivedAt!: Date;
  /** When whoever answered changed it last. */
  @InstantColumn({ nullable: true }) changedAt!: Date | null;
  /** What became of the copy that is mailed to whoever answered; null where none is. */
  @Column({ type: 'varchar', length: 20, nullable: true }) copyState!: CopyState | null;
  /** When it is due, or has left. */
  @InstantColumn({ nullable: true }) copyAt!: Date | null;
  /** SHA-256 of its address. */
  @HashColumn({ nullable: true }) copyKey!: string | null;
  /** What the mail server said, or why there is none. */
  @Column({ type: 'varchar', length: 1000, nullable: true }) copySays!: string | null;
  /** How many there were, as an answer is changed. */
  @Column({ type: 'int', default: 0 }) copies!: number;
}

/** A file that was brought along with an answer. */
@Entity('form_upload')
export class FormUploadRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @IdColumn() folioId!: string;
  @IdColumn() writingId!: string;
  @IdColumn() itemId!: string;
  /** Null until the answer is sent. */
  @IdColumn({ nullable: true }) answerId!: string | null;
  @Column({ type: 'varchar', length: 255 }) name!: string;
  @Column({ type: 'varchar', length: 100 }) mime!: string;
  @HashColumn() blobHash!: string;
  @Column({ type: 'int' }) bytes!: number;
  @InstantColumn() broughtAt!: Date;
}
