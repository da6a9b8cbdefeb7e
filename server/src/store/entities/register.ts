import type { AskedPress, MessageState, PaperState } from '@scriptum/core/contract';
import type { PrintedValues } from '@scriptum/core/fill';
import { Column, Entity, PrimaryColumn } from 'typeorm';
import { HashColumn, IdColumn, IdKey, InstantColumn, JsonColumn } from '../columns.js';
import type { LaidOn } from '../laid-on.js';

@Entity('press_run')
export class PressRunRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @IdColumn() folioId!: string;
  @IdColumn({ nullable: true }) staffId!: string | null;
  @Column({ type: 'varchar', length: 20 }) state!: 'running' | 'finished' | 'stopped';
  @Column({ type: 'int' }) total!: number;
  /** What was asked for; not known of the oldest ones. */
  @JsonColumn({ nullable: true }) asked!: (AskedPress & { readonly orders?: readonly string[] }) | null;
  /** The school's letterhead as its papers are set on; null while there is none. */
  @Column({ type: 'int', nullable: true }) letterheadVersion!: number | null;
  @InstantColumn() startedAt!: Date;
  @InstantColumn({ nullable: true }) finishedAt!: Date | null;
}

/** One paper for one entry. Holds the values that it is made from, so that it can be made again. */
@Entity('paper')
export class PaperRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @IdColumn() folioId!: string;
  @IdColumn() runId!: string;
  @IdColumn() entryId!: string;
  @IdColumn() templateId!: string;
  @Column({ type: 'int' }) templateVersion!: number;
  /** What was another one for its learner, and its version; null where nothing was. */
  @IdColumn({ nullable: true }) exceptionId!: string | null;
  @Column({ type: 'int', nullable: true }) exceptionVersion!: number | null;
  @Column({ type: 'int' }) position!: number;
  @Column({ type: 'varchar', length: 300 }) learner!: string;
  @Column({ type: 'varchar', length: 1000 }) fileName!: string;
  @JsonColumn() values!: PrintedValues;
  /** SHA-256 of all that decides how the paper looks; what its file is called does not. */
  @HashColumn() lookHash!: string;
  /** SHA-256 of its entry's cells when it was planned; not known of the oldest ones. */
  @HashColumn({ nullable: true, select: false }) entryHash?: string | null;
  /** A cell of its entry is another one now (see `compare-papers`). */
  @Column({ type: 'boolean', default: false, select: false }) entryChanged?: boolean;
  /** Papers of other templates that it takes the place of once it is made, by their identities. */
  @JsonColumn({ nullable: true, select: false }) replaces?: string[] | null;
  /** As it is printed on it; null where it prints none. */
  @Column({ type: 'varchar', length: 100, nullable: true }) number!: string | null;
  /** The number of the paper whose place it took by being issued again. */
  @Column({ type: 'varchar', length: 100, nullable: true }) replacesNumber!: string | null;
  /** Another one shall take its place, and is not made yet. */
  @Column({ type: 'boolean', default: false, select: false }) reissue?: boolean;
  /** The class of its learner when it was planned. */
  @Column({ type: 'varchar', length: 100, default: '', select: false }) klass?: string;
  /** The words by which it is found (`soughtWords`), as bytes. */
  @Column({ type: 'varbinary', length: 1200, default: '', select: false }) sought?: Buffer;
  /** Its order among the papers of its entry. */
  @Column({ type: 'int', default: 0 }) place!: number;
  /** The slice of the run in which it is made. */
  @IdColumn({ nullable: true, select: false }) sliceId?: string | null;
  @Column({ type: 'varchar', length: 20 }) state!: PaperState;
  /** It is held as soon as it is pressed: a field is blank that holds it then. */
  @Column({ type: 'boolean', default: false, select: false }) heldBack?: boolean;
  /** It would come out another one now, or under another name (see `compare-papers`). */
  @Column({ type: 'boolean', default: false }) outOfDate!: boolean;
  /** The register's revision in which it, or its message, changed last. */
  @Column({ type: 'bigint', default: 0, select: false }) revision?: string;
  @Column({ type: 'varchar', length: 1000, nullable: true }) reason!: string | null;
  @HashColumn({ nullable: true }) blobHash!: string | null;
  /** What its file lies on, which is put there when it leaves. */
  @JsonColumn({ nullable: true, select: false }) laidOn?: LaidOn | null;
  @Column({ type: 'int', nullable: true }) pages!: number | null;
  /** Of the file when it leaves. */
  @Column({ type: 'int', nullable: true }) bytes!: number | null;
  @InstantColumn({ nullable: true }) pressedAt!: Date | null;
  /** Who cleared or held it last, and when; null where nobody has. */
  @IdColumn({ nullable: true, select: false }) judgedBy?: string | null;
  @InstantColumn({ nullable: true, select: false }) judgedAt?: Date | null;
  /** Why somebody holds it. */
  @Column({ type: 'varchar', length: 1000, nullable: true, select: false }) note?: string | null;
  /** What is another one in it than in the cleared paper before it, which is why it is to be cleared again. */
  @Column({ type: 'varchar', length: 1000, nullable: true, select: false }) changed?: string | null;
}

/** What was done with a paper. */
@Entity('paper_event')
export class PaperEventRow {
  @PrimaryColumn({ type: 'bigint', unsigned: true, generated: 'increment' }) id?: string;
  @IdColumn() schoolId!: string;
  @IdColumn() paperId!: string;
  @Column({ type: 'varchar', length: 20 }) kind!: 'cleared' | 'held' | 'voided' | 'replaced';
  @IdColumn({ nullable: true }) staffId!: string | null;
  @Column({ type: 'varchar', length: 1000, nullable: true }) note!: string | null;
  @InstantColumn() at!: Date;
}

/** Besides the addresses of a message. */
export interface KeptEnvelope {
  /** Of those that it goes to, blank where they are not known. */
  readonly names: readonly string[];
  readonly cc: readonly KeptPerson[];
  readonly bcc: readonly KeptPerson[];
  readonly replyTo: KeptPerson | null;
  /** What the sender is called; as the school is where nothing is said. */
  readonly from: string | null;
  /** BCP 47; not known of older ones. */
  readonly language?: string;
  /** What goes with it in place of its papers. */
  readonly along?: 'link' | 'nothing' | undefined;
  /** Files for everybody. */
  readonly files?: readonly { readonly asset: string; readonly name: string }[];
  /** With what each paper is opened, by its identity: JSON, sealed for the message (see `secrets`). */
  readonly lock?: string | undefined;
}

export interface KeptPerson {
  readonly address: string;
  readonly name: string;
}

/** One email, with the papers in it (`EnclosureRow`). */
@Entity('message')
export class MessageRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @IdColumn() folioId!: string;
  /** Unique: folio, note, recipients, papers by entry and template, and how many times it was asked for. */
  @Column({ type: 'varchar', length: 120 }) sendKey!: string;
  /** The stable Message-ID, with its angle brackets. */
  @Column({ type: 'varchar', length: 200 }) messageId!: string;
  /** Addresses that it goes to. */
  @JsonColumn() recipients!: string[];
  /** Who else gets it, and what people are called; null of older ones. */
  @JsonColumn({ nullable: true }) envelope!: KeptEnvelope | null;
  @Column({ type: 'varchar', length: 1000 }) subject!: string;
  @Column({ type: 'longtext' }) text!: string;
  @Column({ type: 'longtext' }) html!: string;
  @Column({ type: 'varchar', length: 20 }) state!: MessageState;
  @Column({ type: 'int' }) attempts!: number;
  @Column({ type: 'varchar', length: 1000, nullable: true }) answer!: string | null;
  /** The cover note that it was made from; not known of the oldest ones. */
  @IdColumn({ nullable: true }) noteId!: string | null;
  @Column({ type: 'int', nullable: true }) noteVersion!: number | null;
  @InstantColumn() queuedAt!: Date;
  /** When it is due in an order that is fair to all schools (see turns). */
  @Column({ type: 'bigint', default: 0, select: false }) turn?: string;
  @InstantColumn() nextAttemptAt!: Date;
  @InstantColumn({ nullable: true }) sentAt!: Date | null;
  /** What it leaves through; the school's own identity for the way that the server knows by itself. */
  @IdColumn() accountId!: string;
  /** With what it was sent together; null of older ones and those that are sent once more. */
  @IdColumn({ nullable: true }) dispatchId!: string | null;
  /** Addresses in all. */
  @Column({ type: 'int', default: 1 }) people!: number;
  /** The words by which it is found (`soughtWords`), as bytes. */
  @Column({ type: 'varbinary', length: 1200, default: '', select: false }) sought?: Buffer;
  /** What names the taking under which it is being sent, and until when that holds (see claims). */
  @IdColumn({ nullable: true, select: false }) claim?: string | null;
  @InstantColumn({ nullable: true, select: false }) claimedUntil?: Date | null;
}

/** One paper in a message. A paper goes out once with each note; once to each address where each has a message of its own. */
@Entity('enclosure')
export class EnclosureRow {
  @PrimaryColumn({ type: 'varchar', length: 40 }) messageId!: string;
  @PrimaryColumn({ type: 'varchar', length: 40 }) paperId!: string;
  @IdColumn() entryId!: string;
  @IdColumn({ nullable: true }) noteId!: string | null;
  /** A hash of the address, where each has a message of its own; else blank. */
  @Column({ type: 'char', length: 64, default: '' }) apart!: string;
  /** The message that brought the paper to its people after this one was refused, or unconfirmed. */
  @IdColumn({ nullable: true }) settledBy!: string | null;
  /** Its order in the message. */
  @Column({ type: 'int' }) place!: number;
  @IdColumn() schoolId!: string;
  @IdColumn() folioId!: string;
}

/** A message that the practice post got. */
@Entity('practice_mail')
export class PracticeMailRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @Column({ type: 'varchar', length: 320 }) mailbox!: string;
  @Column({ type: 'varchar', length: 320 }) sender!: string;
  @Column({ type: 'varchar', length: 1000 }) subject!: string;
  @Column({ type: 'varchar', length: 300 }) messageId!: string;
  @Column({ type: 'int' }) attachments!: number;
  @Column({ type: 'longblob' }) raw!: Buffer;
  @InstantColumn() receivedAt!: Date;
}
