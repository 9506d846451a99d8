import { dec, sameText, type Day } from '@core/kernel';
import { refuse, type Decision, type Refusal } from '@core/refusals';
import { manyFault } from './many';
import type { Back, Between, Coming, Leaving, Made, MovedWith, Need, Returned, SerialNeed } from './needs';
import { countIn, NUMBER_LENGTH, numberBy } from './pattern';
import { heldSerials, type KeptByNumber, type Serial, type SerialGround, type SerialPlace } from './serial';

/** A piece by its id, or by its place among those that the act makes. */
export type SerialRef = { id: number } | { fresh: number };

export interface SerialMove {
  serial: SerialRef;
  with: MovedWith;
  locationId: number;
  /** One more at our place, or one fewer. */
  quantity: 1 | -1;
  lineId: number | null;
}

/** A piece as it is afterwards. */
export interface SerialAfter {
  serial: SerialRef;
  itemId: number;
  number: string;
  place: SerialPlace;
  locationId: number;
  lineId: number | null;
  workId: number | null;
  within: SerialRef | null;
}

export interface SerialEffects {
  moves: SerialMove[];
  /** Those that are made with it, in order, then those that were there. */
  after: SerialAfter[];
  /** The counts that moved on. */
  next: { itemId: number; next: number }[];
}

const NONE: SerialEffects = { moves: [], after: [], next: [] };

/**
 * A decision on goods, with the numbers of the pieces that move: refused as well where those that are typed are not
 * there, are held for another, are told twice or are not as many as move. // P6
 */
export function numbered<Effects>(
  decision: Decision<Effects>,
  ground: SerialGround,
  day: Day,
  needsOf: (effects: Effects) => readonly SerialNeed[],
): Decision<Effects & { numbers: SerialEffects }> {
  if (!decision.ok) {
    const { refusals, effects } = decision;
    return { ok: false, refusals, ...(effects === undefined ? {} : { effects: { ...effects, numbers: NONE } }) };
  }
  const pieces = new Pieces(ground, day);
  for (const need of needsOf(decision.effects)) pieces.meet(need);
  if (pieces.refusals.length === 0) return { ...decision, effects: { ...decision.effects, numbers: pieces.effects() } };
  // What it would do but for the numbers, while they are typed.
  return { ok: false, refusals: pieces.refusals, effects: { ...decision.effects, numbers: NONE } };
}

/** The pieces that move, as a preview tells them. */
export const numbersShown = ({ after }: SerialEffects) =>
  after.map(({ itemId, number, place, lineId }) => ({ itemId, number, place, lineId }));

/** A piece while needs are met one after the other. */
interface Piece extends Serial {
  ref: SerialRef;
  within: SerialRef | null;
  touched: boolean;
}

/** All pieces that an act knows of, moved need by need; what one need made is there for the next. */
class Pieces {
  readonly refusals: Refusal[] = [];
  readonly #moves: SerialMove[] = [];
  readonly #pieces: Piece[];
  readonly #next = new Map<number, number>();
  readonly #reserved = new Map<number, string>();

  constructor(
    private readonly ground: SerialGround,
    private readonly day: Day,
  ) {
    this.#pieces = ground.serials.map((serial) => ({
      ...serial,
      ref: { id: serial.id },
      within: serial.withinId === null ? null : { id: serial.withinId },
      touched: false,
    }));
    for (const [line, { reserved }] of ground.lines) this.#reserved.set(line, reserved);
  }

  meet(need: SerialNeed): void {
    if (need.way === 'back') return this.#back(need);
    const kept = this.ground.kept.find(({ itemId }) => itemId === need.itemId);
    if (!kept) {
      if (need.typed.length > 0) this.refusals.push(refuse('number-not-kept', need.field, { number: need.typed[0]! }));
      return;
    }
    if (need.way === 'in') this.#comes(kept, need);
    else if (need.way === 'return') this.#returns(kept, need);
    else this.#leaves(kept, need);
  }

  effects(): SerialEffects {
    const touched = this.#pieces.filter((piece) => piece.touched);
    return {
      moves: this.#moves,
      after: touched
        .sort((a, b) => Number('id' in a.ref) - Number('id' in b.ref))
        .map(({ ref, itemId, number, place, locationId, lineId, workId, within }) => ({
          serial: ref,
          itemId,
          number,
          place,
          locationId,
          lineId,
          workId,
          within,
        })),
      next: [...this.#next].map(([itemId, next]) => ({ itemId, next })),
    };
  }

  /** Pieces of an item at a place that may be taken for a line, or for nobody: the line's own first, then the oldest. */
  #free(itemId: number, locationId: number, lineId: number | null): Piece[] {
    const here = this.#pieces.filter(
      (piece) => piece.itemId === itemId && piece.place === 'ours' && piece.locationId === locationId,
    );
    const held = heldSerials(here, (line) => this.#reserved.get(line) ?? '0');
    const others = (piece: Piece) => held.has(piece) && held.get(piece) !== lineId;
    const own = (piece: Piece) => Number(lineId !== null && piece.lineId === lineId);
    return here.filter((piece) => !others(piece)).sort((a, b) => own(b) - own(a) || a.id - b.id);
  }

  #leaves(kept: KeptByNumber, need: Leaving | Between): void {
    const lineId = need.way === 'out' ? need.lineId : null;
    const many = Number(need.quantity);
    const free = this.#free(need.itemId, need.locationId, lineId);
    const taken = need.typed.length > 0 ? this.#typed(kept, need, free) : free.slice(0, many);
    if (taken.length < many) {
      if (need.typed.length === 0) {
        const place = this.ground.places.get(need.locationId) ?? '';
        const facts = { item: kept.item, asked: need.quantity, free: String(free.length), place };
        this.refusals.push(refuse('numbers-short', need.field, facts));
      }
      return;
    }
    for (const piece of taken) {
      this.#move(piece, need, -1, need.way === 'out' ? need.lineId : null);
      if (need.way === 'between') {
        this.#move(piece, { ...need, locationId: need.toId }, 1, null);
        piece.locationId = need.toId;
        piece.lineId = null;
      } else {
        piece.place = need.to;
        piece.workId = need.workId;
        piece.lineId = need.to === 'customer' ? need.lineId : null;
      }
    }
    if (need.way === 'out' && need.lineId !== null) this.#letGo(need.lineId, many);
  }

  /** What goes out of a line is held for it no longer. */
  #letGo(lineId: number, many: number): void {
    const left = dec(this.#reserved.get(lineId) ?? '0').minus(many);
    this.#reserved.set(lineId, left.gt(0) ? left.toFixed() : '0');
  }

  /** The pieces that were typed, each where it must be and free; refused as many as move. */
  #typed(kept: KeptByNumber, need: Leaving | Between | Returned, free: readonly Piece[]): Piece[] {
    if (!this.#asMany(kept, need)) return [];
    const taken: Piece[] = [];
    for (const number of need.typed) {
      const named = (piece: Piece) =>
        piece.itemId === need.itemId && sameText(piece.number) === sameText(number.trim());
      const found = free.find(named);
      if (found) taken.push(found);
      else this.refusals.push(this.#whyNot(kept, need, number.trim(), this.#pieces.find(named)));
    }
    return taken;
  }

  #whyNot(
    kept: KeptByNumber,
    { way, field, locationId }: Leaving | Between | Returned,
    number: string,
    piece: Piece | undefined,
  ): Refusal {
    if (!piece) return refuse('number-unknown', field, { number, item: kept.item });
    if (way === 'return') return refuse('number-not-out', field, { number: piece.number });
    const line = piece.lineId === null ? undefined : this.ground.lines.get(piece.lineId);
    if (piece.place === 'ours' && piece.locationId === locationId) {
      return refuse('number-held', field, { number: piece.number, order: line?.words ?? '' });
    }
    const at = this.ground.places;
    const facts = { number: piece.number, place: at.get(locationId) ?? '', is: piece.place };
    return refuse('number-elsewhere', field, {
      ...facts,
      at: at.get(piece.locationId) ?? '',
      order: line?.words ?? '',
    });
  }

  #asMany(kept: KeptByNumber, need: Exclude<SerialNeed, Back>): boolean {
    const fault = manyFault(kept.item, need);
    if (fault) this.refusals.push(fault);
    return fault === null;
  }

  #comes(kept: KeptByNumber, need: Coming): void {
    const many = Number(need.quantity);
    if (many === 0) return;
    if (need.typed.length === 0 && kept.pattern === '') {
      this.refusals.push(refuse('numbers-needed', need.field, { item: kept.item, quantity: need.quantity }));
      return;
    }
    if (need.typed.length > 0 && !this.#asMany(kept, need)) return;
    const lines = need.for.flatMap(({ lineId, quantity }) => Array<number>(Number(quantity)).fill(lineId));
    for (const { lineId, quantity } of need.for) {
      this.#reserved.set(
        lineId,
        dec(this.#reserved.get(lineId) ?? '0')
          .plus(quantity)
          .toFixed(),
      );
    }
    for (let at = 0; at < many; at += 1) {
      const number = need.typed[at]?.trim() ?? this.#nextOf(kept);
      const piece = this.#born(kept, need, number);
      if (!piece) continue;
      piece.place = 'ours';
      piece.locationId = need.locationId;
      piece.lineId = lines[at] ?? null;
      piece.workId = null;
      piece.within = null;
      this.#move(piece, need, 1, piece.lineId);
      if (need.made) this.#partsInto(piece, need.made, Number(need.made.before) + at);
    }
  }

  /** The next number of an item's pattern. */
  #nextOf(kept: KeptByNumber): string {
    const next = this.#next.get(kept.itemId) ?? kept.next;
    this.#next.set(kept.itemId, next + 1);
    return numberBy(kept.pattern, next, this.day);
  }

  /** A piece of that number: a new one, or one that was out; refused where it is somewhere, or is no number. */
  #born(kept: KeptByNumber, need: Coming, number: string): Piece | null {
    if (number === '' || number.length > NUMBER_LENGTH) {
      this.refusals.push(refuse('not-a-serial', need.field, { most: String(NUMBER_LENGTH) }));
      return null;
    }
    const found = this.#pieces.find(
      (piece) => piece.itemId === kept.itemId && sameText(piece.number) === sameText(number),
    );
    if (found && found.place !== 'out') {
      const line = found.lineId === null ? undefined : this.ground.lines.get(found.lineId);
      const at = found.place === 'ours' ? (this.ground.places.get(found.locationId) ?? '') : '';
      this.refusals.push(
        refuse('number-exists', need.field, {
          number: found.number,
          item: kept.item,
          is: found.place,
          at,
          order: line?.words ?? '',
        }),
      );
      return null;
    }
    // A typed number that the pattern would come to is not made again.
    const count = countIn(kept.pattern, number);
    if (count !== null && count >= (this.#next.get(kept.itemId) ?? kept.next)) this.#next.set(kept.itemId, count + 1);
    if (found) return found;
    const fresh = this.#pieces.filter((piece) => 'fresh' in piece.ref).length;
    const piece: Piece = {
      // After all that were there.
      id: Number.MAX_SAFE_INTEGER - 1e6 + fresh,
      ref: { fresh },
      itemId: kept.itemId,
      number,
      place: 'ours',
      locationId: need.locationId,
      lineId: null,
      workId: null,
      withinId: null,
      within: null,
      touched: true,
    };
    this.#pieces.push(piece);
    return piece;
  }

  /** The parts that the order's next product takes of those it used, the first used first: each product its share. */
  #partsInto(product: Piece, { workId, quantity, parts }: Made, before: number): void {
    const upTo = (all: string, pieces: number) => Math.round((Number(all) * pieces) / Number(quantity));
    for (const part of parts) {
      const share = upTo(part.quantity, before + 1) - upTo(part.quantity, before);
      this.#pieces
        .filter(
          (piece) =>
            piece.itemId === part.itemId && piece.place === 'used' && piece.workId === workId && piece.within === null,
        )
        .sort((a, b) => a.id - b.id)
        .slice(0, share)
        .forEach((piece) => {
          piece.within = product.ref;
          piece.touched = true;
        });
    }
  }

  /** All that went out on the line where all come back, else those that were typed; what went out without comes with new ones. */
  #returns(kept: KeptByNumber, need: Returned): void {
    const many = Number(need.quantity);
    const out = this.#pieces.filter(
      ({ itemId, place, lineId }) => itemId === need.itemId && place === 'customer' && lineId === need.lineId,
    );
    if (out.length === 0) return this.#comes(kept, { ...need, way: 'in', for: [], made: null });
    if (need.typed.length === 0 && out.length !== many) {
      const facts = { item: kept.item, quantity: need.quantity, out: String(out.length) };
      this.refusals.push(refuse('numbers-which', need.field, facts));
      return;
    }
    for (const piece of need.typed.length === 0 ? out : this.#typed(kept, need, out)) {
      this.#move(piece, need, 1, null);
      piece.place = 'ours';
      piece.locationId = need.locationId;
      piece.lineId = null;
    }
  }

  #back({ of, document, with: by, from, heldAgain }: Back): void {
    const moved = this.ground.moved.filter(({ kind, documentId }) => kind === of.kind && documentId === of.id);
    // What came and went with one document is taken back the other way round.
    for (const { serialId, quantity, locationId, lineId } of [...moved].reverse()) {
      const piece = this.#pieces.find((each) => each.id === serialId)!;
      const came = quantity > 0;
      if (piece.place !== (came ? 'ours' : from) || (came && piece.locationId !== locationId)) {
        const at = this.ground.places.get(piece.locationId) ?? '';
        const order = piece.lineId === null ? '' : (this.ground.lines.get(piece.lineId)?.words ?? '');
        this.refusals.push(
          refuse('number-moved-on', '', { document, number: piece.number, is: piece.place, at, order }),
        );
        continue;
      }
      const again = !came && lineId !== null && heldAgain.includes(lineId) ? lineId : null;
      this.#move(piece, { with: by, locationId }, came ? -1 : 1, again);
      piece.place = came ? 'out' : 'ours';
      piece.locationId = locationId;
      piece.lineId = again;
      piece.workId = null;
      piece.within = null;
      // What only changed its place was made before.
      if (came && !moved.some((each) => each.serialId === serialId && each.quantity < 0)) this.#unmade(serialId);
    }
  }

  /** What is not made after all has no parts. */
  #unmade(serialId: number): void {
    for (const part of this.#pieces) {
      if (!part.within || !('id' in part.within) || part.within.id !== serialId) continue;
      part.within = null;
      part.touched = true;
    }
  }

  #move(piece: Piece, need: Pick<Need, 'with' | 'locationId'>, quantity: 1 | -1, lineId: number | null): void {
    piece.touched = true;
    this.#moves.push({ serial: piece.ref, with: need.with, locationId: need.locationId, quantity, lineId });
  }
}
