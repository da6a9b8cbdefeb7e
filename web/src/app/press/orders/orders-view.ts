import { Dialog } from '@angular/cdk/dialog';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { Store } from '@ngrx/store';
import type { OrderLine, OrderWork } from '@scriptum/core/contract';
import { emptyOrder, type Order } from '@scriptum/core/order';
import { learnerName, nameColumns } from '@scriptum/core/roll';
import { newId } from '../../api/new-id';
import { TryDialog } from '../../desk/try-dialog';
import { cellsOf } from '../../editor/cells-of';
import { deskActions, deskFeature } from '../../state/desk';
import { ordersActions, ordersFeature } from '../../state/orders';
import { sessionFeature } from '../../state/session';
import { writingFeature } from '../../state/writing';
import { ConfirmDialog, type Confirmation } from '../../ui/confirm-dialog';
import { Icon } from '../../ui/icon';
import { Sentence } from '../../ui/sentence/sentence';
import type { SentenceChange, SentencePiece } from '../../ui/sentence/sentence-piece';
import { Switch } from '../../ui/switch';
import { PressViews } from '../press-views';
import { changeOrder, orderSentence, type OrderSurroundings } from './order-sentence';
import { WorkList } from './work-list';

/** Learners that the margin names. */
const NAMED = 40;

/** What is pressed and sent by itself: standing orders, what each did, and what waits for somebody's yes. */
@Component({
  selector: 'sc-orders-view',
  imports: [Icon, PressViews, Sentence, Switch, WorkList],
  templateUrl: './orders-view.html',
  host: { class: 'sc-middle' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrdersView {
  private readonly store = inject(Store);
  private readonly dialogs = inject(Dialog);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  private readonly roll = this.store.selectSignal(deskFeature.selectRoll);
  private readonly forms = this.store.selectSignal(writingFeature.selectForms);
  private readonly timeZone = this.store.selectSignal(sessionFeature.selectTimeZone);
  protected readonly learner = this.store.selectSignal(deskFeature.selectPicked);
  protected readonly state = this.store.selectSignal(ordersFeature.selectOrdersState);
  protected readonly orders = computed(() => this.state().orders ?? []);
  protected readonly picked = computed(
    () => this.orders().find(({ id }) => id === this.state().pickedId) ?? null,
  );
  private readonly byId = computed(() => new Map(this.roll().entries.map((entry) => [entry.id, entry])));
  private readonly names = computed(() => nameColumns(this.roll().columns));
  protected readonly next = computed(() => this.state().next);
  /** Those whom it would take now, by name. */
  protected readonly taken = computed(() =>
    (this.next()?.takes ?? []).slice(0, NAMED).map((entryId) => ({ entryId, name: this.nameOf(entryId) })),
  );
  /** What the order that is looked at would do for the picked learner now. */
  protected readonly forLearner = computed(() => {
    const [next, learner] = [this.next(), this.learner()];
    if (!next || !learner) return null;
    if (next.takes.includes(learner.id)) return 'would be taken now';
    return next.passed.find(({ entryIds }) => entryIds.includes(learner.id))?.why ?? null;
  });
  protected readonly around = computed((): OrderSurroundings => ({
    columns: this.roll().columns,
    entry: this.learner(),
    cellsOf: (columnId) => cellsOf(this.roll().entries, columnId),
    forms: [
      ...this.forms().map(({ id, content }) => ({ id, name: content.name })),
      ...this.state().hooks,
      ...this.state().watched.map(({ id, name }) => ({ id, name: `the file “${name}”`, isFile: true })),
    ],
    staff: this.state().staff,
  }));
  protected readonly lines = computed(() =>
    this.orders().map((line) => ({
      line,
      pieces: orderSentence(line.order, this.around()),
      goes: this.goesOf(line),
    })),
  );
  /** The work that is shown: all of it, or that of one state. */
  protected readonly shown = signal<OrderWork['state'] | null>(null);

  constructor() {
    const folioId = computed(() => this.folio()?.id);
    effect(() => {
      if (folioId()) untracked(() => this.store.dispatch(ordersActions.asked()));
    });
  }

  protected add(): void {
    const taken = new Set(this.orders().map(({ order }) => order.name));
    const answered = this.around().forms.some(({ isFile }) => !isFile);
    const first = answered ? 'Answer each' : 'Press and send';
    let name = first;
    for (let n = 2; taken.has(name); n++) name = `${first} ${n}`;
    const order = emptyOrder(name);
    const when: Order['when'] = answered
      ? order.when
      : { kind: 'weekly', days: [1, 2, 3, 4, 5], at: ['15:30'] };
    this.store.dispatch(ordersActions.add({ orderId: newId(), order: { ...order, when } }));
  }

  protected pick(orderId: string): void {
    this.shown.set(null);
    this.store.dispatch(ordersActions.pick({ orderId }));
  }

  protected show(orderId: string, state: OrderWork['state']): void {
    if (orderId !== this.state().pickedId) this.pick(orderId);
    this.shown.set(state);
  }

  protected change(line: OrderLine, change: SentenceChange): void {
    const order = changeOrder(line.order, change, this.around());
    if (order !== line.order) this.save(line, order);
  }

  protected rename(line: OrderLine, name: string): void {
    const trimmed = name.trim().slice(0, 200);
    if (trimmed && trimmed !== line.order.name) this.save(line, { ...line.order, name: trimmed });
  }

  protected switch({ id, isOn }: OrderLine): void {
    this.store.dispatch(ordersActions.switch({ orderId: id, isOn: !isOn }));
  }

  protected delete({ id, order: { name }, asked, isOn }: OrderLine): void {
    const gone = (): void => this.store.dispatch(ordersActions.delete({ orderId: id, name }));
    if (asked === 0 && !isOn) {
      gone();
      return;
    }
    const whose = asked === 1 ? '1 learner’s papers' : `${asked} learners’ papers`;
    const data: Confirmation = {
      title: `Delete “${name}”?`,
      text: `It acts no more.${asked > 0 ? ` ${whose} that wait for a yes stay in the register and are not sent.` : ''} What it did stays as it is.`,
      yes: 'Delete it',
      grave: true,
    };
    this.confirm(data, gone);
  }

  protected restore(orderId: string): void {
    this.store.dispatch(ordersActions.restore({ orderId }));
  }

  protected run({ id, order }: OrderLine, count: number): void {
    const learners = count === 1 ? '1 learner' : `${count} learners`;
    const then = {
      ask: 'Papers are pressed and wait for a yes.',
      send: 'Papers are pressed and sent at once, as far as nothing is wrong with them.',
      keep: 'Papers are pressed and lie in the register.',
    }[order.then.kind];
    this.confirm(
      { title: `Let “${order.name}” take ${learners} now?`, text: then, yes: `Take ${learners}` },
      () => this.store.dispatch(ordersActions.run({ orderId: id, count })),
    );
  }

  protected say(workIds: readonly string[], yes: boolean): void {
    const orderId = this.state().pickedId;
    if (orderId) this.store.dispatch(ordersActions.say({ orderId, workIds, yes }));
  }

  protected tryIt(): void {
    this.dialogs.open(TryDialog, { ariaLabelledBy: 'try-title' });
  }

  protected pickLearner(entryId: string): void {
    this.store.dispatch(deskActions.pick({ entryId }));
  }

  /** How many learners there are of each state. */
  protected countsOf(line: OrderLine): { state: OrderWork['state']; says: string }[] {
    const { asked, blocked, owed, sent, kept, left } = line;
    const all: { state: OrderWork['state']; count: number; says: string }[] = [
      { state: 'asked', count: asked, says: asked === 1 ? 'waits for a yes' : 'wait for a yes' },
      { state: 'blocked', count: blocked, says: 'blocked' },
      { state: 'owed', count: owed, says: 'on the way' },
      { state: 'sent', count: sent, says: 'sent' },
      { state: 'kept', count: kept, says: 'in the register' },
      { state: 'left', count: left, says: 'left' },
    ];
    return all
      .filter(({ count }) => count > 0)
      .map(({ state, count, says }) => ({ state, says: `${count} ${says}` }));
  }

  /** A sentence of which nothing is to be changed. */
  protected plain(pieces: readonly SentencePiece[]): string {
    return pieces
      .map((piece) => (typeof piece === 'string' ? piece : piece.look === 'add' ? '' : piece.text))
      .join('')
      .replace(/ +(?=[ ,.])/g, '');
  }

  /** Shows some learners in the strip. */
  protected showSome(label: string, entryIds: readonly string[]): void {
    this.store.dispatch(deskActions.showSome({ some: { label, entryIds: [...entryIds] } }));
  }

  protected nameOf(entryId: string): string {
    const entry = this.byId().get(entryId);
    return entry ? learnerName(entry, this.names()) : '';
  }

  /** A moment by the clocks of the school. */
  protected readonly moment = (iso: string): string =>
    new Intl.DateTimeFormat('en-GB', {
      weekday: 'short',
      day: 'numeric',
      month: 'short',
      hour: '2-digit',
      minute: '2-digit',
      timeZone: this.timeZone(),
    }).format(new Date(iso));

  /** When it acts next, and when it did last. */
  private goesOf({ isOn, order, nextAt, lastAt }: OrderLine): string {
    const next = !isOn
      ? ''
      : nextAt
        ? `Next on ${this.moment(nextAt)}`
        : order.when.kind === 'answer'
          ? 'Waits for answers'
          : 'Has no time to come';
    const last = lastAt ? `last on ${this.moment(lastAt)}` : isOn ? 'has done nothing yet' : '';
    return [next, last].filter(Boolean).join(' · ');
  }

  private confirm(data: Confirmation, then: () => void): void {
    this.dialogs
      .open<boolean>(ConfirmDialog, { data, ariaLabelledBy: 'confirm-title' })
      .closed.subscribe((yes) => {
        if (yes) then();
      });
  }

  private save({ id, version }: OrderLine, order: Order): void {
    this.store.dispatch(ordersActions.save({ orderId: id, order, version }));
  }
}
