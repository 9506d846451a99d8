/** One measured pair: ours and the floor's (or rival's) rates or times of the same run. */
export interface Figure {
  name: string;
  ours: string;
  theirs: string;
  /** Ours against theirs, one for each pair of turns. */
  ratios: number[];
  aim: string;
}

export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}

/** `name  ours  theirs  ratio  (n runs, min–max)  aim`. */
export function printed({ name, ours, theirs, ratios, aim }: Figure): string {
  const two = (value: number) => value.toFixed(2);
  return [
    name.padEnd(36),
    ours.padStart(14),
    theirs.padStart(14),
    two(median(ratios)).padStart(7),
    `  (${ratios.length} runs, ${two(Math.min(...ratios))}–${two(Math.max(...ratios))})`,
    `  aim ${aim}`,
  ].join(' ');
}

/** Runs `work` over `jobs` with so many at once; jobs done per second. */
export async function rateOf<Job>(
  jobs: readonly Job[],
  clients: number,
  work: (job: Job, client: number) => Promise<void>,
): Promise<number> {
  const begun = performance.now();
  let next = 0;
  await Promise.all(
    Array.from({ length: clients }, async (_, client) => {
      for (let at = next++; at < jobs.length; at = next++) await work(jobs[at]!, client);
    }),
  );
  return (jobs.length * 1000) / (performance.now() - begun);
}
