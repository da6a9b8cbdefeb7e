import type { OrderState } from '@scriptum/core/contract';
import type { Order } from '@scriptum/core/order';
import { Column, Entity } from 'typeorm';
import { HashColumn, IdColumn, IdKey, InstantColumn, JsonColumn } from '../columns.js';

/** A press, and perhaps a dispatch, that happens by itself. */
@Entity('standing_order')
export class StandingOrderRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @IdColumn() folioId!: string;
  @JsonColumn() content!: Order;
  @Column({ type: 'int' }) version!: number;
  @Column({ type: 'boolean' }) isOn!: boolean;
  /** Since when it is on: what came before is touched only where somebody says so. */
  @InstantColumn({ nullable: true }) onAt!: Date | null;
  /** Who switched it on. */
  @IdColumn({ nullable: true }) ownerId!: string | null;
  /** When it acts next. */
  @InstantColumn({ nullable: true }) nextAt!: Date | null;
  @InstantColumn({ nullable: true }) lastAt!: Date | null;
  /** When people were asked last for a yes. */
  @InstantColumn({ nullable: true }) askedAt!: Date | null;
  /** The day on which its owner was told last that something is wrong, ISO 8601. */
  @Column({ type: 'varchar', length: 10, nullable: true }) toldOn!: string | null;
  /** When somebody is to be written to that it waits, or that something is wrong. */
  @InstantColumn({ nullable: true }) mailAt!: Date | null;
  @InstantColumn() createdAt!: Date;
  @InstantColumn({ nullable: true }) deletedAt!: Date | null;
}

/** One piece of work: an order, an entry, and a version of what is said of it. There is each once, so none is done twice. */
@Entity('order_work')
export class OrderWorkRow {
  @IdKey() id!: string;
  @IdColumn() schoolId!: string;
  @IdColumn() folioId!: string;
  @IdColumn() orderId!: string;
  @IdColumn() entryId!: string;
  /** SHA-256 of what tells it from other times: the answer, the day, or the cells. */
  @HashColumn() version!: string;
  @Column({ type: 'varchar', length: 12 }) state!: OrderState;
  @Column({ type: 'varchar', length: 1000, nullable: true }) why!: string | null;
  /** True where somebody has to do something about it. */
  @Column({ type: 'boolean', default: false }) isWrong!: boolean;
  @IdColumn({ nullable: true }) runId!: string | null;
  /** How often its paper was out of date before it could leave. */
  @Column({ type: 'int', default: 0 }) tries!: number;
  @InstantColumn() owedAt!: Date;
  /** It is not looked at before. */
  @InstantColumn() notBefore!: Date;
  /** When it was begun with. */
  @InstantColumn({ nullable: true }) startedAt!: Date | null;
  /** Until when a yes is waited for. */
  @InstantColumn({ nullable: true }) until!: Date | null;
  @InstantColumn({ nullable: true }) endedAt!: Date | null;
  /** When somebody was written to about its state. */
  @InstantColumn({ nullable: true }) toldAt!: Date | null;
  /** Who said yes or no. */
  @IdColumn({ nullable: true }) saidBy!: string | null;
}
