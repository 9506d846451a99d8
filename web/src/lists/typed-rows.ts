import { computed, signal } from '@angular/core';
import type { KeptList } from '@core/lists';
import type { RefusalShown } from '../kit/act/api';
import { dropDraft, keepDraft, keptDraft } from '../kit/act/drafts';
import { refusedAt } from '../kit/act/refusals';
import type { KeepInput, KeptRow } from './service';

/** A row as it is shown: as it is kept, or as it is typed over. */
export interface ShownRow {
  key: string;
  id: number | null;
  /** What was seen of it when it was first touched. */
  stamp: string;
  cells: Readonly<Record<string, string>>;
  mark: '' | 'new' | 'changed' | 'goes';
}

let keys = 0;

/**
 * What is typed over a kept list, and not kept yet: it stays in this browser until it is, whatever page of the list it
 * is on. // G2 G3
 */
export class TypedRows {
  private readonly touched = signal<readonly ShownRow[]>([]);
  readonly refusals = signal<readonly RefusalShown[]>([]);
  private list: KeptList | null = null;
  private keptAs = '';
  /** What a new row begins with. */
  private fresh: Readonly<Record<string, string>> = {};
  readonly changed = computed(() => this.touched().filter((row) => row.mark === 'changed' || this.isUsed(row)));
  readonly going = computed(() => this.touched().filter((row) => row.mark === 'goes'));
  readonly count = computed(() => this.changed().length + this.going().length);

  /** Takes up a list, with what was being typed over it. */
  begin(list: KeptList, keptAs: string, fresh: Readonly<Record<string, string>>): void {
    this.list = list;
    this.keptAs = keptAs;
    this.fresh = fresh;
    this.refusals.set([]);
    this.touched.set(keptDraft<ShownRow[]>(keptAs) ?? []);
    this.withBlank();
  }

  /** The rows as they are shown: new ones on top, each kept one as it is typed over. */
  over(rows: readonly KeptRow[]): ShownRow[] {
    const touched = this.touched();
    const own = new Map(touched.filter((row) => row.id !== null).map((row) => [row.id, row]));
    return [
      ...touched.filter((row) => row.id === null),
      ...rows.map((row): ShownRow => own.get(row.id) ?? { key: `row${row.id}`, ...row, mark: '' }),
    ];
  }

  /** What is to become of a row; nothing for a blank one. */
  marked(row: ShownRow): ShownRow['mark'] {
    return row.mark === 'new' && !this.isUsed(row) ? '' : row.mark;
  }

  private isUsed(row: ShownRow): boolean {
    return row.mark === 'new' && Object.entries(row.cells).some(([name, cell]) => cell !== (this.fresh[name] ?? ''));
  }

  private blank(): ShownRow {
    keys += 1;
    return { key: `new${keys}-${Date.now()}`, id: null, stamp: '', cells: { ...this.fresh }, mark: 'new' };
  }

  /** Keeps one blank row on top where rows may be added. */
  private withBlank(): void {
    if (!this.list?.grows) return;
    const [first] = this.touched();
    if (!first || first.mark !== 'new' || this.isUsed(first)) this.touched.update((rows) => [this.blank(), ...rows]);
  }

  set(row: ShownRow, name: string, text: string): void {
    const mark = row.id === null ? 'new' : 'changed';
    const now = this.touched().find(({ key }) => key === row.key) ?? row;
    this.put({ ...now, cells: { ...now.cells, [name]: text }, mark });
  }

  /** So many new rows from a new one on, made where they are lacking: what a spreadsheet's rows are pasted into. */
  roomFrom(row: ShownRow, count: number): ShownRow[] | null {
    if (row.id !== null) return null;
    const fresh = this.touched().filter((each) => each.id === null);
    const at = fresh.findIndex((each) => each.key === row.key);
    const lacking = Math.max(0, count - (fresh.length - at));
    const more = Array.from({ length: lacking }, () => this.blank());
    const last = this.touched().findIndex((each) => each.key === fresh.at(-1)!.key);
    this.touched.update((rows) => [...rows.slice(0, last + 1), ...more, ...rows.slice(last + 1)]);
    return [...fresh, ...more].slice(at, at + count);
  }

  /** Takes a row out; one that was to go stays after all, a new one is forgotten. */
  remove(row: ShownRow): void {
    if (row.id === null) this.forget(row.key);
    else if (row.mark === 'goes') this.forget(row.key);
    else this.put({ ...row, mark: 'goes' });
  }

  private forget(key: string): void {
    this.touched.update((rows) => rows.filter((row) => row.key !== key));
    this.refusals.set([]);
    this.withBlank();
    this.store();
  }

  private put(row: ShownRow): void {
    // What was refused of a row stands until it is touched.
    const at = this.placeOf(row);
    this.refusals.update((all) => all.filter((each) => !at || (each.field !== at && !each.field.startsWith(`${at}.`))));
    this.touched.update((rows) =>
      rows.some((each) => each.key === row.key)
        ? rows.map((each) => (each.key === row.key ? row : each))
        : [...rows, row],
    );
    this.withBlank();
    this.store();
  }

  private store(): void {
    const typed = this.touched().filter((row) => row.mark !== 'new' || this.isUsed(row));
    if (typed.length === 0) dropDraft(this.keptAs);
    else keepDraft(this.keptAs, typed);
  }

  /** What is sent. */
  input(): KeepInput {
    return {
      list: this.list!.name,
      changes: this.changed().map(({ id, stamp, cells }) => ({ id, stamp, cells: { ...cells } })),
      removed: this.going().map(({ id, stamp }) => ({ id: id!, stamp })),
    };
  }

  private placeOf(row: ShownRow): string {
    const changed = this.changed().findIndex((each) => each.key === row.key);
    if (changed >= 0) return `changes.${changed}`;
    const going = this.going().findIndex((each) => each.key === row.key);
    return going >= 0 ? `removed.${going}` : '';
  }

  /** What is refused in a cell. */
  at(row: ShownRow, name: string): string {
    const place = this.placeOf(row);
    return place ? refusedAt(this.refusals(), `${place}.${name}`) : '';
  }

  /** What is refused of a row as a whole. */
  of(row: ShownRow): string {
    const place = this.placeOf(row);
    return place ? refusedAt(this.refusals(), place) : '';
  }

  /** Everything typed is kept or given up. */
  drop(): void {
    dropDraft(this.keptAs);
    this.touched.set([]);
    this.refusals.set([]);
    this.withBlank();
  }

  /** Types over rows as they are now: what somebody else made of them meanwhile gives way. */
  overTheirs(rows: readonly KeptRow[]): void {
    const now = new Map(rows.map((row) => [row.id, row.stamp]));
    this.touched.update((all) => all.map((row) => ({ ...row, stamp: now.get(row.id ?? 0) ?? row.stamp })));
    this.refusals.set([]);
    this.store();
  }
}
