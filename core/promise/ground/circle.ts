/**
 * The circle a BOM line closes: the numbers along it, the first again at the end; null where it closes none.
 * O(lines) in all.
 */
export function circleThrough(
  lines: readonly { item: string; component: string }[],
  item: string,
  component: string,
): string[] | null {
  const madeOf = new Map<string, string[]>();
  for (const line of lines) madeOf.set(line.item, [...(madeOf.get(line.item) ?? []), line.component]);
  // Down from the component; whoever meets the item has closed it.
  const from = new Map<string, string | null>([[component, null]]);
  for (const at of from.keys()) {
    if (at === item) {
      const path: string[] = [];
      for (let step: string | null = at; step !== null; step = from.get(step) ?? null) path.unshift(step);
      return [item, ...path];
    }
    for (const next of madeOf.get(at) ?? []) if (!from.has(next)) from.set(next, at);
  }
  return null;
}
