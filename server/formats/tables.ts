import { table } from '../db';

export const paperTextTable = table('paper_text', {
  int: 'companyId id=',
  choice: 'documentKind:SO|PO|SH|CI|CN language:en|ms',
  text: 'words',
});
