import { dec, sum, type Dec } from '@core/kernel';
import { refuse, type Refusal } from '@core/refusals';

/** A component an item may have instead of one of its own, or besides them. */
export interface ItemOption {
  id: number;
  component: { id: number; number: string; name: string };
  /** For one of the item. */
  quantity: string;
  /** The operation it is needed at; null for that of the component it replaces, or the first. */
  operationNo: number | null;
  /** On the price of one of the item, in the currency asked for. */
  price: string;
  /** Options it does not come without, and that it does not come with. */
  needs: number[];
  excludes: number[];
}

/** Options of an item of which so many are chosen. */
export interface OptionGroup {
  id: number;
  name: string;
  /** The component that stays out where something of the group is chosen; null where it comes besides. */
  replaces: { id: number; number: string } | null;
  atLeast: number;
  atMost: number;
  options: ItemOption[];
}

/** What an item is made of, for one of it, as a BOM tells it. */
export interface OptionalPart {
  componentId: number;
  operationNo: number | null;
}

const optionsIn = (groups: readonly OptionGroup[]) => groups.flatMap(({ options }) => options);

/** The options that were chosen, in the order they are listed. */
export function chosenOf(groups: readonly OptionGroup[], chosen: readonly number[]): ItemOption[] {
  return optionsIn(groups).filter(({ id }) => chosen.includes(id));
}

/**
 * What stands against a choice of options: one the item does not have, too few or too many of a group, one without
 * another it needs or with one it excludes. O(options × chosen). // W1 W2
 */
export function optionRefusals(
  item: string,
  groups: readonly OptionGroup[],
  chosen: readonly number[],
  field: string,
): Refusal[] {
  const all = optionsIn(groups);
  const own = chosenOf(groups, chosen);
  const numberOf = (id: number) => all.find((each) => each.id === id)?.component.number ?? '';
  const counted = groups.flatMap(({ name, atLeast, atMost, options }) => {
    const many = options.filter(({ id }) => chosen.includes(id)).length;
    if (many < atLeast) return [refuse('options-few', field, { item, group: name, least: String(atLeast) })];
    return many > atMost ? [refuse('options-many', field, { item, group: name, most: String(atMost) })] : [];
  });
  const needed = own.flatMap(({ component, needs }) =>
    needs
      .filter((id) => !chosen.includes(id))
      .map((id) => refuse('option-needs', field, { option: component.number, other: numberOf(id) })),
  );
  const excluded = own.flatMap(({ component, excludes }) =>
    own
      .filter(({ id }) => excludes.includes(id))
      .map((other) => refuse('option-excludes', field, { option: component.number, other: other.component.number })),
  );
  const unknown = chosen.some((id) => !all.some((each) => each.id === id));
  return [...(unknown ? [refuse('option-unknown', field, { item })] : []), ...counted, ...needed, ...excluded];
}

/** What chosen options put on the price of one of the item. // R1 */
export const optionsPrice = (groups: readonly OptionGroup[], chosen: readonly number[]): Dec =>
  sum(chosenOf(groups, chosen).map(({ price }) => dec(price)));

/** Chosen options as a person reads them; empty where none is. */
export const optionsName = (groups: readonly OptionGroup[], chosen: readonly number[]): string =>
  chosenOf(groups, chosen)
    .map(({ component }) => component.number)
    .join(', ');

/** The components that stay out for what is chosen. */
export const replacedBy = (groups: readonly OptionGroup[], chosen: readonly number[]): number[] =>
  groups.flatMap(({ options, replaces }) =>
    replaces && options.some(({ id }) => chosen.includes(id)) ? [replaces.id] : [],
  );

/**
 * What an item is made of with chosen options: its own components but for those that are replaced, and the options; each
 * where the one it replaces was needed, unless it says otherwise. // W1 T4
 */
export function withOptions<Part extends OptionalPart>(
  parts: readonly Part[],
  groups: readonly OptionGroup[],
  chosen: readonly number[],
): { kept: Part[]; added: { componentId: number; quantity: string; operationNo: number | null }[] } {
  const replaced = replacedBy(groups, chosen);
  return {
    kept: parts.filter(({ componentId }) => !replaced.includes(componentId)),
    added: groups.flatMap(({ replaces, options }) =>
      options
        .filter(({ id }) => chosen.includes(id))
        .map(({ component, quantity, operationNo }) => ({
          componentId: component.id,
          quantity,
          operationNo:
            operationNo ?? parts.find(({ componentId }) => componentId === replaces?.id)?.operationNo ?? null,
        })),
    ),
  };
}
