import { DialogRef } from '@angular/cdk/dialog';
import { ChangeDetectionStrategy, Component, computed, inject, signal, type OnDestroy } from '@angular/core';
import { Store } from '@ngrx/store';
import { freeTitle, type Column } from '@scriptum/core/column';
import {
  guessMatchedBy,
  isIn,
  learnerName,
  matchPictures,
  nameColumns,
  valueOf,
  type CellChange,
  type MatchedBy,
} from '@scriptum/core/roll';
import { firstValueFrom } from 'rxjs';
import { Api, troubleOf } from '../../api/api';
import { newId } from '../../api/new-id';
import { deskFeature } from '../../state/desk';
import { rollActions } from '../../state/roll';
import { Chosen, Entered } from '../../ui/bound';
import { Icon } from '../../ui/icon';
import { readPictures, type PictureFile, type UnusableFile } from '../../ui/picture-files';

const NAME = 'name';
const NEW = 'new';
/** Pictures that are sent side by side. */
const LANES = 3;
/** As many names are listed, and as many learners to choose from in all lines together. */
const LISTED = 200;
const CHOICES = 40_000;

/** Brings the learners' own pictures: reads them, finds out whose each is, and puts them into a column. */
@Component({
  selector: 'sc-pictures-dialog',
  imports: [Chosen, Entered, Icon],
  templateUrl: './pictures-dialog.html',
  host: { class: 'panel flex max-h-[92vh] w-200 max-w-[95vw] flex-col' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PicturesDialog implements OnDestroy {
  protected readonly dialog = inject<DialogRef<void>>(DialogRef);
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly roll = this.store.selectSignal(deskFeature.selectSettledRoll);
  private readonly folio = this.store.selectSignal(deskFeature.selectFolio);
  protected readonly nameWord = NAME;
  protected readonly newWord = NEW;

  protected readonly pictures = signal<readonly PictureFile[]>([]);
  protected readonly unusable = signal<readonly UnusableFile[]>([]);
  /** How many were read so far, while they are read; how many were sent, while they are sent. */
  protected readonly reading = signal<number | null>(null);
  protected readonly sent = signal<number | null>(null);
  protected readonly trouble = signal<string | null>(null);
  protected readonly over = signal(false);
  private readonly chosenBy = signal<string | null>(null);
  private readonly chosenColumn = signal<string | null>(null);
  protected readonly title = signal('Photo');
  /** Whose a picture is that people said themselves, by its place; blank for nobody's. */
  private readonly said = signal<ReadonlyMap<number, string>>(new Map());

  protected readonly columns = computed(() => this.roll().columns);
  protected readonly pictureColumns = computed(() =>
    this.columns().filter(({ type, worked }) => type === 'picture' && !worked),
  );
  private readonly names = computed(() => this.pictures().map(({ name }) => name));
  private readonly guessed = computed(() => guessMatchedBy(this.roll(), this.names()));
  protected readonly by = computed(() => {
    const by = this.guessed();
    return this.chosenBy() ?? (by === 'name' ? NAME : by.columnId);
  });
  /** A column that names the pictures is where they belong. */
  protected readonly column = computed(
    () =>
      this.chosenColumn() ??
      this.pictureColumns().find(({ id }) => id === this.by())?.id ??
      this.pictureColumns()[0]?.id ??
      NEW,
  );
  private readonly matches = computed(() => {
    const by: MatchedBy = this.by() === NAME ? 'name' : { columnId: this.by() };
    return matchPictures(this.roll(), this.names(), by);
  });
  /** Which picture is whose, with what people said themselves. */
  private readonly fileOf = computed(() => {
    const fileOf = new Map(this.matches().fileOf);
    for (const [n, entryId] of this.said()) if (entryId !== '') fileOf.set(entryId, n);
    return fileOf;
  });
  private readonly nameIds = computed(() => nameColumns(this.columns()));
  protected readonly learners = computed(() =>
    this.roll()
      .entries.filter(isIn)
      .map((entry) => ({ id: entry.id, name: learnerName(entry, this.nameIds()) })),
  );
  protected readonly count = computed(() => this.fileOf().size);
  protected readonly without = computed(() => {
    const has = this.fileOf();
    const columnId = this.column();
    const before = new Set(
      this.roll().entries.flatMap(({ id, exact }) => (exact?.[columnId]?.startsWith('i:') ? [id] : [])),
    );
    return this.learners().filter(({ id }) => !has.has(id) && !before.has(id));
  });
  protected readonly left = computed(() =>
    this.matches()
      .left.slice(0, Math.min(LISTED, Math.max(4, Math.floor(CHOICES / (this.learners().length + 1)))))
      .map((n) => ({ n, name: this.names()[n]!, entryId: this.said().get(n) ?? '' })),
  );
  protected readonly leftCount = computed(() => this.matches().left.length);
  protected readonly withoutTold = computed(() => this.without().slice(0, LISTED));
  protected readonly withoutMore = computed(() => this.without().length - LISTED);
  protected readonly busy = computed(() => this.reading() !== null || this.sent() !== null);

  /** Set once the dialog is left: what is still on its way then is put nowhere. */
  private gone = false;

  ngOnDestroy(): void {
    this.gone = true;
  }

  protected drop(event: DragEvent): void {
    event.preventDefault();
    this.over.set(false);
    void this.read([...(event.dataTransfer?.files ?? [])]);
  }

  protected choose(box: HTMLInputElement): void {
    const files = [...(box.files ?? [])];
    box.value = '';
    void this.read(files);
  }

  private async read(files: readonly File[]): Promise<void> {
    if (files.length === 0 || this.busy()) return;
    this.trouble.set(null);
    this.reading.set(0);
    const before = this.pictures();
    const read = await readPictures(files, (n) => this.reading.set(n));
    this.reading.set(null);
    this.pictures.set([...before, ...read.pictures]);
    this.unusable.update((known) => [...known, ...read.unusable]);
  }

  protected match(by: string): void {
    this.chosenBy.set(by);
    this.said.set(new Map());
  }

  protected into(columnId: string): void {
    this.chosenColumn.set(columnId);
  }

  protected say(n: number, entryId: string): void {
    this.said.update((said) => new Map(said).set(n, entryId));
  }

  /** Sends the pictures that are somebody's, and puts them into the column as one change, which can be undone. */
  protected async put(): Promise<void> {
    const folio = this.folio();
    if (!folio || this.busy()) return;
    this.trouble.set(null);
    this.sent.set(0);
    const waiting = [...this.fileOf()];
    const assets = new Map<string, { asset: string; name: string }>();
    const lane = async (): Promise<void> => {
      for (let next = waiting.shift(); next && !this.gone; next = waiting.shift()) {
        const [entryId, n] = next;
        const { file } = this.pictures()[n]!;
        const { id } = await firstValueFrom(this.api.addPicture(folio.id, file)).catch((error: unknown) => {
          throw new Error(`${file.name}: ${troubleOf(error).message}`);
        });
        assets.set(entryId, { asset: id, name: file.name });
        this.sent.set(assets.size);
      }
    };
    try {
      await Promise.all(Array.from({ length: LANES }, lane));
    } catch (error) {
      waiting.length = 0;
      this.trouble.set((error as Error).message);
      this.sent.set(null);
      return;
    }
    if (this.gone) return;
    // What others did meanwhile stays: a learner who was taken away, and a column.
    const { columns } = this.roll();
    const known = columns.find(({ id }) => id === this.column());
    const made: Column = known ?? {
      id: newId(),
      title: freeTitle(this.title().trim() || 'Photo', new Set(columns.map(({ title }) => title))),
      type: 'picture',
    };
    const cells = this.roll().entries.flatMap((entry): CellChange[] => {
      const own = assets.get(entry.id);
      if (!own) return [];
      // A name that waits for its picture stays; one of another picture goes with it.
      const named = entry.exact?.[made.id] === undefined ? valueOf(entry, made.id) : '';
      return [{ entryId: entry.id, columnId: made.id, text: named || own.name, exact: `i:${own.asset}` }];
    });
    const count = cells.length === 1 ? 'one picture' : `${cells.length} pictures`;
    this.store.dispatch(
      rollActions.change({
        patch: { cells, ...(known ? {} : { columns: withColumn(columns, made) }) },
        what: `${count} in “${made.title}”`,
      }),
    );
    this.store.dispatch(rollActions.notice({ text: `“${made.title}” has ${count} more.` }));
    this.dialog.close();
  }
}

/** With a column behind those of the name, where it is in sight. */
function withColumn(columns: readonly Column[], column: Column): Column[] {
  const names = new Set(nameColumns(columns));
  const at = columns.reduce((last, one, n) => (names.has(one) ? n : last), -1) + 1;
  return [...columns.slice(0, at), column, ...columns.slice(at)];
}
