import { dec, isDay, isDecimalText, type Day } from '@core/kernel';
import { decided, refuse, type Decision, type Refusal } from '@core/refusals';
import type { ExchangedDocument, ExchangedLine } from '@core/formats';
import type { OfferKind } from './take';

/** Our line that a line of a company elsewhere is the same thing as, as it stands. */
export interface LineOfOurs {
  id: number;
  documentId: number;
  itemId: number;
  unit: string;
  /** Its item is paired with one of hers. */
  paired: boolean;
  /** In our unit, and how many of ours are one of hers. */
  quantity: string;
  factor: string;
  day: Day;
}

export interface ArrivalGround {
  /** Our own code. */
  ours: string;
  /** The company elsewhere that bears the code of who sent it; null for none. */
  sister: { name: string } | null;
  /** The same document as it came before, and what it became here where that is cancelled already; null where it is new. */
  known: { revision: number; gone: boolean; ended: number | null } | null;
  /** Of an answer: our document that it is about, and how it stands there; null where none was sent. */
  sent: { offerId: number; revision: number; state: string } | null;
  /** Our lines that the document names, by `lineKey` of ours, or of hers that we took. */
  lines: ReadonlyMap<string, LineOfOurs>;
  /** How many lines each of the documents that are named by our numbers has. */
  counts: ReadonlyMap<number, number>;
  /** Our vendor invoice under that number; null for none. */
  entered: number | null;
}

/** A line by its document's number and its own. */
export const lineKey = ({ number, line }: { number: string; line: number }): string => `${number}/${line}`;

export interface ArrivalEffects {
  /** It stands in the tray as new, or changed; it was here already, or an older one comes late; ours came back. */
  does: 'new' | 'changed' | 'nothing' | 'returned';
  /** Our document that it is, or answers: known, and no second thing to do. */
  answers: number | null;
  /** It tells otherwise than ours: to be looked at. */
  otherwise: boolean;
  /** Its lines, each with ours that is the same thing. */
  lines: { line: ExchangedLine; lineId: number | null }[];
  /** Items that are one by what she says of our own lines, unit by unit: hers by its number. */
  pairs: { item: string; itemId: number }[];
}

/** Longest texts that are kept. */
const MOST = { number: 40, item: 24, unit: 12, lines: 500, serial: 40 } as const;

/**
 * What came in a file from a company elsewhere: each document once by its number and revision, whatever is sent twice and
 * in whatever order; what answers a purchase of ours is joined with it. Refused: what is not for us, of nobody known, or
 * cannot be kept as it is. // X2 X3
 */
export function decideArrival(ground: ArrivalGround, document: ExchangedDocument): Decision<ArrivalEffects> {
  const { ours, sister, known, sent } = ground;
  const { kind, number } = document;
  const refusals: Refusal[] = [];
  const { from, to } = document;
  if (!sister) refusals.push(refuse('file-of-nobody', 'file', { code: from.code || from.name, name: from.name }));
  if (to.code !== ours) refusals.push(refuse('file-for-another', 'file', { code: to.code || to.name, ours }));
  if (number.length > MOST.number)
    refusals.push(refuse('too-long', 'file', { what: 'The number', most: String(MOST.number) }));
  if (refusals.length > 0) return { ok: false, refusals };
  const sisterName = sister!.name;
  const plain = { answers: null, otherwise: false, lines: [], pairs: [] };
  if (kind === 'answer') {
    if (!sent) return { ok: false, refusals: [refuse('answer-to-nothing', 'file', { number, sister: sisterName })] };
    // Of a revision that is not the last, or again: nothing new.
    const does = sent.state === 'returned' || sent.revision !== document.revision ? 'nothing' : 'returned';
    return { ok: true, effects: { ...plain, does }, warnings: [] };
  }
  const older =
    known !== null &&
    (document.revision < known.revision || (document.revision === known.revision && (known.gone || !document.gone)));
  if (older) return { ok: true, effects: { ...plain, does: 'nothing' }, warnings: [] };
  const does = known === null ? 'new' : 'changed';
  if (document.gone) return { ok: true, effects: { ...plain, does, answers: known?.ended ?? null }, warnings: [] };
  refusals.push(...document.lines.flatMap((line) => against(kind, line)));
  const numbers = document.lines.map((line) => line.number);
  const twice = numbers.find((each, at) => each < 1 || numbers.indexOf(each) !== at);
  if (twice !== undefined) refusals.push(refuse('file-line-twice', 'file', { line: String(twice) }));
  if (document.lines.length > MOST.lines) refusals.push(refuse('file-too-long', 'file', { most: String(MOST.lines) }));
  if (document.lines.length === 0) refusals.push(refuse('nothing-asked', 'file', { what: 'a line' }));
  if (kind !== 'receipt' && !/^[A-Z]{3}$/.test(document.currency))
    refusals.push(refuse('not-a-currency', 'file', { code: document.currency }));
  if (kind === 'invoice' && (!isDecimalText(document.total, 'price') || dec(document.total).lt(0)))
    refusals.push(refuse('file-total', 'file', { total: document.total }));
  return decided(refusals, () => {
    const lines = document.lines.map((line) => ({ line, lineId: oursOf(ground, line)?.id ?? null }));
    const pairs = pairsOf(ground, document.lines);
    if (kind === 'invoice') return { does, lines, pairs, answers: ground.entered, otherwise: false };
    if (kind === 'receipt') return { does, lines, pairs, answers: null, otherwise: false };
    const answered = document.lines.map((line) => oursOf(ground, line)?.documentId ?? null);
    const answers = answered[0] ?? null;
    const otherwise =
      answered.some((each) => each !== answers) ||
      answered.length !== (answers === null ? 0 : ground.counts.get(answers)) ||
      document.lines.some((line) => differs(oursOf(ground, line), line));
    return { does, lines, pairs, answers, otherwise: answers !== null && otherwise };
  });
}

/** Ours by our own number, else by hers. */
const oursOf = ({ lines }: ArrivalGround, { ordered, sold }: ExchangedLine): LineOfOurs | null =>
  (ordered && lines.get(lineKey(ordered))) ?? (sold && lines.get(lineKey(sold))) ?? null;

/** Each item of ours once, and each of hers. */
function pairsOf(ground: ArrivalGround, lines: readonly ExchangedLine[]): ArrivalEffects['pairs'] {
  const pairs: ArrivalEffects['pairs'] = [];
  for (const line of lines) {
    const ours = oursOf(ground, line);
    if (!ours || ours.paired || ours.unit !== line.unit) continue;
    if (!pairs.some(({ item, itemId }) => item === line.item || itemId === ours.itemId))
      pairs.push({ item: line.item, itemId: ours.itemId });
  }
  return pairs;
}

const differs = (ours: LineOfOurs | null, line: ExchangedLine): boolean =>
  ours === null || !dec(line.quantity).times(ours.factor).eq(ours.quantity) || line.day !== ours.day;

/** What stands against keeping a line as it is. */
function against(kind: OfferKind, line: ExchangedLine): Refusal[] {
  const at = `lines.${line.number}`;
  const facts = { line: String(line.number) };
  const refusals: Refusal[] = [];
  if (!isDecimalText(line.quantity, 'quantity') || dec(line.quantity).lte(0))
    refusals.push(refuse('file-line-quantity', at, { ...facts, quantity: line.quantity }));
  const priced = kind !== 'receipt';
  if (priced && (!isDecimalText(line.price || '0', 'price') || dec(line.price || '0').lt(0)))
    refusals.push(refuse('file-line-price', at, { ...facts, price: line.price }));
  if (line.item === '') refusals.push(refuse('file-line-item', at, facts));
  for (const [what, text, most] of [
    ['The item', line.item, MOST.item],
    ['The unit', line.unit, MOST.unit],
    ['The delivery note', line.despatch, MOST.number],
  ] as const) {
    if (text.length > most)
      refusals.push(refuse('too-long', at, { what: `${what} of line ${line.number}`, most: String(most) }));
  }
  if (line.numbers.some((each) => each === '' || each.length > MOST.serial || /\s/.test(each)))
    refusals.push(refuse('file-line-serial', at, facts));
  if (line.day !== null && !isDay(line.day)) refusals.push(refuse('not-a-day', at, { what: `Line ${line.number}` }));
  return refusals;
}
