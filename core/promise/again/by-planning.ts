import { addDays, daysBetween, NEVER, type DayIndex } from '../../kernel';
import { answer, leadDay } from '../asking/ask';
import { answerText } from '../asking/answer-text';
import type { PlannedOrderPlan } from '../asking/accept';
import { Ground } from '../ground/ground';
import type { GroundRows } from '../ground/rows';
import { scaled, type Scaled } from '../ground/scaled';
import { keptDay, rankOf, rankOrder, type FoundDays, type PromisedLine } from './lines';
import { byLeadTime, whyOn, type Coming } from './reasons';

/** What is planned for a line: its orders as they were laid, those above before those below. */
export type StandingPlan = readonly Pick<
  PlannedOrderPlan,
  'parent' | 'itemId' | 'quantity' | 'held' | 'start' | 'due' | 'components' | 'operations'
>[];
export type StandingPlans = ReadonlyMap<number, StandingPlan>;

/**
 * Lines that are planned, and those of what plans use, on one ground without any of them; false where it was stopped.
 * In rank order each keeps its day, and what is planned for it, as long as all of that stands: nothing of it had to begin
 * before today, its work centres have the minutes, and what it takes is there when it is taken. The others are asked
 * anew by priority and age on what is left; then those that are promised by what is there take an earlier day where
 * there is enough. So a line loses its day only where its own supply does, and nothing moves twice. // T9
 * O(lines × log days) for what stands, as often as a round of it loses one; for the others as `answer` says.
 */
export function byPlanning(
  rows: GroundRows,
  comes: Coming,
  lines: readonly PromisedLine[],
  plans: StandingPlans,
  days: FoundDays,
  report: (done: number) => boolean,
): boolean {
  if (lines.length === 0) return true;
  const ground = new Ground(rows);
  const { places, inRank, stand } = standing(ground, lines, plans);
  let done = 0;
  const goOn = () => done++ % 64 !== 0 || report(done - 1);
  const late: PromisedLine[] = [];
  const without = { ...rankOf(rows, lines), promised: new Int32Array(lines.length) };
  for (const at of rankOrder(without)) {
    if (stand.has(at)) continue;
    if (!goOn()) return false;
    if (!askAnew(ground, comes, lines[at]!, places[at]!, days)) late.push(lines[at]!);
  }
  byLeadTime(rows, late, days);
  for (const at of inRank) {
    if (!stand.has(at)) continue;
    if (!goOn()) return false;
    const line = lines[at]!;
    const day = places[at]!.sooner();
    days.set(line.lineId, { is: addDays(rows.workDate, day), why: whyOn(comes, rows.workDate, line.itemId, day) });
  }
  return true;
}

/** Which lines stand, by their places; what they take is taken from the ground. A round more for each that had to go. */
export function standing(ground: Ground, lines: readonly PromisedLine[], plans: StandingPlans) {
  const places = lines.map((line) => new Standing(ground, line, plans.get(line.lineId) ?? []));
  const kept = Int32Array.from(places, (place) => place.kept);
  const inRank = [...rankOrder({ ...rankOf(ground.rows, lines), promised: kept })];
  let stand = inRank.filter((at) => places[at]!.inTime());
  for (;;) {
    const mark = ground.mark();
    // What lots bring beyond their need is there for whoever counted on it.
    for (const at of stand) places[at]!.bring();
    const left = stand.filter((at) => places[at]!.take());
    if (left.length === stand.length) return { places, inRank, stand: new Set(stand) };
    ground.backTo(mark);
    stand = left;
  }
}

/** A line with what is planned for it, on the ground. */
class Standing {
  /** The day it would keep. */
  readonly kept: DayIndex;
  private readonly item: number;
  private readonly quantity: Scaled;
  private readonly from: DayIndex;

  constructor(
    private readonly ground: Ground,
    private readonly line: PromisedLine,
    private readonly plan: StandingPlan,
  ) {
    const { workDate, horizon } = ground.rows;
    this.item = ground.at(line.itemId);
    this.quantity = scaled(line.quantity);
    this.from = Math.max(0, daysBetween(workDate, line.asked));
    this.kept = keptDay(daysBetween(workDate, line.promised), this.from, horizon);
  }

  /** Whether its day and its plan can be kept, as far as the days go. // T2 T9 */
  inTime(): boolean {
    const { ground, line, plan, kept } = this;
    const { workDate, horizon } = ground.rows;
    if (this.from >= horizon) return false;
    // A new one would be there by then, and holds nothing back.
    if (line.way === 'atp') return kept < this.lead();
    if (line.way === 'lead' || addDays(workDate, kept) !== line.promised) return false;
    return plan.every((order) => {
      // What it is made of may be another thing by now.
      if (![order, ...order.components].every(({ itemId }) => ground.knows(itemId))) return false;
      if (order.start < workDate) return false;
      if (order.parent === null) return order.due <= line.promised;
      const needed = plan[order.parent]!.components.filter(({ itemId }) => itemId === order.itemId);
      return needed.some(({ neededOn }) => order.due <= neededOn);
    });
  }

  private lead(): DayIndex {
    const day = leadDay(this.ground, this.item);
    return typeof day === 'number' ? day : NEVER;
  }

  bring(): void {
    for (const { itemId, quantity, held, due } of this.plan) {
      const spare = scaled(quantity) - scaled(held);
      if (spare > 0) this.move(itemId, due, spare);
    }
  }

  /** Takes all it needs on the days it needs it; nothing, and false, where some of it is not there. */
  take(): boolean {
    const { ground, plan, quantity } = this;
    const mark = ground.mark();
    const own = plan.reduce((sum, order) => (order.parent === null ? sum + scaled(order.held) : sum), 0);
    const all =
      this.takeOf(this.item, this.kept, quantity - own) &&
      plan.every(
        (order) =>
          order.components.every(({ itemId, neededOn, quantity: needed, covered }) =>
            this.takeOf(ground.at(itemId), ground.dayIndex(neededOn), scaled(needed) - scaled(covered)),
          ) &&
          order.operations.every(({ centreId, load }) =>
            load.every(({ day, ...stretch }) => ground.hold(centreId, day, stretch)),
          ),
      );
    if (!all) ground.backTo(mark);
    return all;
  }

  private takeOf(item: number, day: DayIndex, quantity: Scaled): boolean {
    if (quantity <= 0 || day >= this.ground.horizon) return true;
    if (this.ground.timelines.available(item, day) < quantity) return false;
    this.ground.move(item, day, -quantity);
    return true;
  }

  private move(itemId: number, due: string, quantity: Scaled): void {
    const day = this.ground.supplyDay(due);
    if (day < this.ground.horizon) this.ground.move(this.ground.at(itemId), day, quantity);
  }

  /** The day it has, an earlier one where it is promised by what is there and there is enough. */
  sooner(): DayIndex {
    const { ground, item, quantity, kept, from, line, plan } = this;
    const byStock = line.way === 'atp' || (line.way === 'have' && plan.length === 0);
    if (!byStock || kept === from) return kept;
    ground.move(item, kept, quantity);
    const day = ground.timelines.earliest(item, from, quantity);
    ground.move(item, day, -quantity);
    return day;
  }

  /** The day there is enough from then on, taken; NEVER where the lead time is earlier, which holds nothing. // T2 */
  available(): DayIndex {
    const { ground, item, quantity, from } = this;
    const day = ground.timelines.earliest(item, from, quantity);
    if (day === NEVER || day > Math.max(from, this.lead())) return NEVER;
    ground.move(item, day, -quantity);
    return day;
  }
}

/** Asks a line on what is left; false where only the lead time can say a day. */
function askAnew(ground: Ground, comes: Coming, line: PromisedLine, place: Standing, days: FoundDays): boolean {
  const { workDate, horizon } = ground.rows;
  if (line.way !== 'atp') {
    const ask = { key: '', itemId: line.itemId, quantity: line.quantity, asked: line.asked };
    const { day, trouble, waits } = answerText(ground, answer(ground, ask, line.way));
    const longest = waits.reduce<(typeof waits)[number] | null>(
      (most, wait) => (!most || daysBetween(wait.from, wait.to) > daysBetween(most.from, most.to) ? wait : most),
      null,
    );
    days.set(line.lineId, { is: day, why: trouble ?? longest?.text ?? 'what it needs is there' });
    return true;
  }
  // A day beyond the horizon is not looked at: it is had when asked.
  if (ground.dayIndex(line.asked) >= horizon) {
    days.set(line.lineId, { is: line.asked, why: '' });
    return true;
  }
  const day = place.available();
  if (day === NEVER) return false;
  days.set(line.lineId, { is: addDays(workDate, day), why: whyOn(comes, workDate, line.itemId, day) });
  return true;
}
