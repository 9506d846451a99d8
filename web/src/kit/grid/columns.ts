import type { Observable } from 'rxjs';
import type { SmallBead } from '../charts/bead';
import type { Choice } from '../fields';

/** How text is put into a cell; null where only a choice is taken. */
export function textSetter<Row>(edit: CellEdit<Row>): ((row: Row, typed: string) => void) | null {
  return edit.kind === 'lookup' ? (edit.setText?.bind(edit) ?? null) : edit.set.bind(edit);
}

/** What a cell lets a person do. The text given to `set` is as typed. */
export type CellEdit<Row> = {
  /** Whether this row's cell can be edited; all where it is missing. */
  when?(row: Row): boolean;
} & (
  | { kind: 'text'; set(row: Row, typed: string): void }
  | { kind: 'choice'; options(row: Row): { value: string; label: string }[]; set(row: Row, value: string): void }
  | {
      kind: 'lookup';
      search(words: string): Observable<Choice[]>;
      set(row: Row, choice: Choice): void;
      /** Takes text that was pasted or copied down; where it is missing, only what is chosen is taken. */
      setText?(row: Row, typed: string): void;
    }
);

export interface GridColumn<Row> {
  id: string;
  head: string;
  /** Pixels; a column without a width shares what is left. */
  width?: number;
  /** Right-aligned figures. */
  figures?: boolean;
  text?(row: Row): string;
  /** The text leads there. */
  link?(row: Row): string | null;
  beads?(row: Row): readonly SmallBead[];
  /** Ochre: needs a person. */
  need?(row: Row): boolean;
  /** What is refused in this cell. */
  problem?(row: Row): string;
  /** As it is typed: what editing begins with. */
  typed?(row: Row): string;
  edit?: CellEdit<Row>;
}
