import { FulfilmentQuery } from '@api/insight';
import { tableFiles } from '../formats';
import { checked, type FileAnswer } from '../room';
import { sumsOf } from './agreement-columns';
import { fulfilmentTable } from './fulfilment';

/** The sums of agreements as CSV and XLSX. */
export const insightFiles: readonly FileAnswer[] = tableFiles('fulfilment', 'see-agreements', ({ parts, who, query }) =>
  fulfilmentTable(
    parts.database,
    sumsOf(parts.database),
    who.companyId,
    checked(FulfilmentQuery, query, 'The address'),
    who.workDate,
  ),
);
