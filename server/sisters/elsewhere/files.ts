import { IdParam } from '@api/kit';
import { refuse } from '@core/refusals';
import { PRINT_RIGHT } from '../../formats';
import { checked, Refusals, type FileAnswer } from '../../room';
import { exchangeFile } from './document';

/** What goes to companies elsewhere, as files. */
export const exchangeFiles: readonly FileAnswer[] = [
  {
    path: '/exchange/:id/ubl',
    needs: 'send',
    what: 'This document',
    async read({ ctx, parts, who }) {
      const { id } = checked(IdParam, ctx['params'], 'The address');
      const { kind, ...file } = await parts.database.snapshot((sql) => exchangeFile(sql, who!.companyId, id));
      // What asks for a right on paper asks for it in a file.
      const right = PRINT_RIGHT[kind];
      if (right && !who!.rights.includes(right)) throw new Refusals(403, [refuse('no-right-to-see', '', {})]);
      return { ...file, type: 'application/xml', how: 'attachment' };
    },
  },
];
