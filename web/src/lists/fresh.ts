import type { KeptList } from '@core/lists';

/** What a new row of a list begins with: first choices, and our own currency where one is needed. */
export function freshCells(list: KeptList, currency: string): Record<string, string> {
  return Object.fromEntries(
    list.fields.flatMap(({ name, needed, is }): [string, string][] => {
      if (is.kind === 'choice') return [[name, is.options[0]!.value]];
      const ours = is.kind === 'ref' && needed && (is.to === 'currency' || is.to === 'iso-currency');
      return ours ? [[name, currency]] : [];
    }),
  );
}
