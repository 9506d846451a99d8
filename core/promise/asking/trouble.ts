import type { Trouble } from '../ground/rows';

/** Why no date can be said, in a sentence with the way out. // G3 */
export function troubleText(trouble: Trouble): string {
  switch (trouble.kind) {
    case 'cycle':
      return `The BOMs go in a circle: ${trouble.path.join(' → ')}; take one line of it out.`;
    case 'no-shift':
      return `${trouble.centre} has no shift to work in; give it minutes, machines and a calendar with working days.`;
    case 'nobody-sells':
      return `Nobody sells us ${trouble.item}; add a vendor for it.`;
    case 'no-way':
      return `${trouble.item} is neither bought nor made, so there will not be more of it; say how it is obtained, or let it go out from where it is.`;
    case 'no-lead':
      return `${trouble.item} has no lead time of its own, for it is made by its routing; ask what could be made.`;
    case 'horizon':
      return `There is no ${trouble.item} within ${trouble.days} days; ask for less, or for a part.`;
    case 'before-today':
      return `${trouble.item} would have had to be begun before today; ask for a later day.`;
    case 'too-much':
      return `That is more ${trouble.item} than can be counted; ask for less.`;
    case 'straight':
      return `${trouble.item} goes from its vendor straight to the customer: only the lead time says when.`;
    case 'own-way':
      return `${trouble.item} is made for it with what was chosen; confirm the order, and it is laid so.`;
    case 'too-deep':
      return `${trouble.item} fans out into more orders than can be planned; look at its BOM.`;
  }
}
