import type { Route } from '@core/catalogue';
import { addDays, boughtBy, Calendar, daysBetween, NEVER, type CalendarRow, type Day } from '@core/kernel';
import type { Offer } from './bench';

/** The calendars purchases are due by. */
export interface SupplyCalendars {
  workDate: Day;
  calendars: readonly CalendarRow[];
  ownCalendarId: number;
  /** Receiving and safety days, in our working days. */
  ownDays: number;
  /** Vendors with a calendar of their own; the others work when we do. */
  vendorCalendars: ReadonlyMap<number, number>;
}

/** Days that are looked ahead. */
const HORIZON = 1100;

/** When what is bought can be there: one rule for the bench and the purchases it places, as for promises. // T3 */
export class SupplyDays {
  readonly workDate: Day;
  private readonly built = new Map<number, Calendar>();

  constructor(private readonly from: SupplyCalendars) {
    this.workDate = from.workDate;
  }

  private calendar(id: number): Calendar {
    const known = this.built.get(id);
    if (known) return known;
    const row = this.from.calendars.find((each) => each.id === id)!;
    const built = new Calendar(this.workDate, HORIZON, row);
    this.built.set(id, built);
    return built;
  }

  /**
   * The day supply for a line is due: the last working day up to its ship date, ours, or the vendor's where the goods go
   * straight to the customer; where the vendor cannot make it, the first day they can. O(1).
   */
  due({ vendorId, leadDays }: Pick<Offer, 'vendorId' | 'leadDays'>, route: Route, shipDate: Day): Day {
    const ownCalendar = this.calendar(this.from.ownCalendarId);
    const vendorCalendar = this.calendar(this.from.vendorCalendars.get(vendorId) ?? this.from.ownCalendarId);
    // Straight to the customer there is nothing for us to receive.
    const [there, ownDays] = route === 'drop' ? [vendorCalendar, 0] : [ownCalendar, this.from.ownDays];
    const soonest = boughtBy(0, { days: leadDays, vendorCalendar, ownDays, ownCalendar: there });
    const wanted = daysBetween(this.workDate, shipDate);
    const worked = there.last(wanted);
    // Beyond what is looked at, or where nobody ever works, the day that is asked for.
    if (soonest === NEVER || wanted >= HORIZON) return shipDate;
    return addDays(this.workDate, Math.max(worked, soonest));
  }
}
