import { addDays, dec, groupedBy, sum, weekdayOf, ZERO, type Day, type Dec } from '@core/kernel';

/** A line that may go with a run: how much of it can go, and what one weighs and takes. */
export interface RunLine {
  lineId: number;
  shipToId: number;
  /** What can go out now, and what is on the vehicle. */
  now: string;
  loaded: string;
  weight: string;
  volume: string;
}

export interface Vehicle {
  /** Kilograms and cubic metres it carries at most; null for no limit. */
  mostWeight: string | null;
  mostVolume: string | null;
}

export interface RunStop {
  shipToId: number;
  lineIds: number[];
  /** Of what can go, or is loaded. */
  weight: string;
  volume: string;
  /** With this stop the vehicle is over what it carries. */
  over: boolean;
}

export interface Run {
  stops: RunStop[];
  weight: string;
  volume: string;
  /** By how much it is over the vehicle; `0` where it is not. */
  overWeight: string;
  overVolume: string;
}

/** What of a line goes with the run: what is loaded of it, else what could be. */
const goes = ({ loaded, now }: RunLine): Dec => (dec(loaded).gt(0) ? dec(loaded) : dec(now));

/**
 * The stops of a run in the order they are driven, with what each weighs and takes, and from which on it is more than the
 * vehicle carries: what is delivered last is loaded first, so the whole counts. Stops with nothing are left out. // S11
 */
export function runOf(stops: readonly number[], lines: readonly RunLine[], vehicle: Vehicle): Run {
  const byStop = groupedBy(lines, ({ shipToId }) => shipToId);
  let [weight, volume] = [ZERO, ZERO];
  const made = stops.flatMap((shipToId): RunStop[] => {
    const own = byStop.get(shipToId) ?? [];
    if (own.length === 0) return [];
    const [ownWeight, ownVolume] = [
      sum(own.map((line) => goes(line).times(line.weight))),
      sum(own.map((line) => goes(line).times(line.volume))),
    ];
    weight = weight.plus(ownWeight);
    volume = volume.plus(ownVolume);
    return [
      {
        shipToId,
        lineIds: own.map(({ lineId }) => lineId),
        weight: ownWeight.toFixed(),
        volume: ownVolume.toFixed(),
        over: overBy(weight, vehicle.mostWeight).gt(0) || overBy(volume, vehicle.mostVolume).gt(0),
      },
    ];
  });
  return {
    stops: made,
    weight: weight.toFixed(),
    volume: volume.toFixed(),
    overWeight: overBy(weight, vehicle.mostWeight).toFixed(),
    overVolume: overBy(volume, vehicle.mostVolume).toFixed(),
  };
}

function overBy(value: Dec, most: string | null): Dec {
  if (most === null) return ZERO;
  const over = value.minus(most);
  return over.gt(0) ? over : ZERO;
}

/** The days of a round from a day on, so many; none where it goes on no day of the week. `week` is seven of 0 and 1, Monday first. */
export function runDays(week: string, from: Day, count: number): Day[] {
  const days: Day[] = [];
  for (let ahead = 0; ahead < count * 7 && days.length < count; ahead += 1) {
    const day = addDays(from, ahead);
    if (week[weekdayOf(day)] === '1') days.push(day);
  }
  return days;
}
