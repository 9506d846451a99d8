import { refuse } from '@core/refusals';
import { DocumentParams, IdParam } from '@api/kit';
import { PRINT_RIGHT } from '../formats';
import { checked, Refusals, type FileAnswer } from '../room';
import { fileOf, messageFile } from './reads';

/** Documents as they are printed, and as they were sent. */
export const mailFiles: readonly FileAnswer[] = [
  {
    path: '/documents/:kind/:id/pdf',
    what: 'A print of this document',
    async read({ ctx, parts, who, signal }) {
      const document = checked(DocumentParams, ctx['params'], 'The address');
      const right = PRINT_RIGHT[document.kind];
      if (right && !who!.rights.includes(right)) throw new Refusals(403, [refuse('no-right-to-see', '', {})]);
      const file = await fileOf(parts.database, who!.companyId, document);
      if (!file) return null;
      const content = await file.content({ person: who!.personId, signal });
      return { name: file.name, content, type: 'application/pdf', how: 'inline' };
    },
  },
  {
    path: '/messages/:id/attachment',
    needs: 'see-mail',
    what: 'This message',
    async read({ ctx, parts, who }) {
      const { id } = checked(IdParam, ctx['params'], 'The address');
      const file = await messageFile(parts.database, who!.companyId, id);
      return file.name.endsWith('.xml')
        ? { ...file, type: 'application/xml', how: 'attachment' }
        : { ...file, type: 'application/pdf', how: 'inline' };
    },
  },
];
