import type { Piece } from './piece';

/**
 * The columns of a table by their kind, each kind a text of names as the code has them, spaces between. A name ends
 * with `?` where it may be empty (NULL), with `=` where the database has a value for what is left out (a number of its
 * own, a default); of a choice its values follow: `state=:draft|placed`.
 */
interface Kinds {
  int?: string;
  decimal?: string;
  /** `YYYY-MM-DD`. */
  day?: string;
  /** A moment, as the database writes it. */
  time?: string;
  boolean?: string;
  choice?: string;
  text?: string;
  bytes?: string;
}

type Split<S> = S extends `${infer One} ${infer Rest}` ? One | Split<Rest> : S extends '' ? never : S;
type Bare<C> = C extends `${infer Name}:${string}` ? Bare<Name> : C extends `${infer Name}${'?' | '='}` ? Name : C;
type Values<C> = C extends `${string}:${infer All}` ? Either<All> : never;
type Either<S> = S extends `${infer One}|${infer Rest}` ? One | Either<Rest> : S;
type Emptiable = `${string}?` | `${string}?:${string}`;
type LeftOut = Emptiable | `${string}=` | `${string}=:${string}`;

interface Read {
  int: number;
  decimal: string;
  day: string;
  time: string;
  boolean: boolean;
  text: string;
  bytes: Buffer;
}
type Cell<Kind, C> = (Kind extends keyof Read ? Read[Kind] : Values<C>) | (C extends Emptiable ? null : never);
type Written<Kind, C> = Cell<Kind, C> | Piece | (Kind extends 'time' ? Date : never);

type RowOfKinds<K extends Kinds> = UnionToIntersection<
  { [Kind in keyof K]: { [C in Split<K[Kind]> & string as Bare<C> & string]: Cell<Kind, C> } }[keyof K]
>;
type NewOfKinds<K extends Kinds> = UnionToIntersection<
  {
    [Kind in keyof K]: {
      [C in Split<K[Kind]> & string as C extends LeftOut ? never : Bare<C> & string]: Written<Kind, C>;
    } & { [C in Split<K[Kind]> & string as C extends LeftOut ? Bare<C> & string : never]?: Written<Kind, C> };
  }[keyof K]
>;
type UnionToIntersection<U> = (U extends unknown ? (each: U) => void : never) extends (all: infer I) => void
  ? I
  : never;

/** A table, told once: rows that are read and written, and what is inserted, have their types of it. */
export interface Table<K extends Kinds = Kinds> {
  readonly name: string;
  readonly kinds: K;
}

/** A row as it is read. */
export type Row<T> = T extends Table<infer K> ? RowOfKinds<K> : never;

/** Some columns of a row, named with spaces between; nothing fits it where the row has not all of them. */
export type Columns<R, Names extends string> = [Exclude<Split<Names>, keyof R>] extends [never]
  ? Pick<R, Split<Names> & keyof R>
  : never;

/** A row as it is inserted: what the database gives by itself may be left out. */
export type NewRow<T> = T extends Table<infer K> ? NewOfKinds<K> : never;

export function table<const K extends Kinds>(name: string, kinds: K): Table<K> {
  return { name, kinds };
}

/** The columns of a table as the database has them, each with its kind, and what may be left out or empty. */
export function columnsTold({ kinds }: Table) {
  return Object.entries(kinds as Record<string, string>).flatMap(([kind, all]) =>
    all.split(' ').map((column) => {
      const [head, values] = column.split(':') as [string, string?];
      return {
        name: head.replace(/[?=]$/, ''),
        kind,
        empty: head.endsWith('?'),
        given: head.endsWith('='),
        values: values?.split('|') ?? [],
      };
    }),
  );
}
