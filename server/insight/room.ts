import * as insight from '@api/insight';
import { answers, type Room } from '../room';
import { sumsOf } from './agreement-columns';
import { insightFiles } from './files';
import { fulfilment } from './fulfilment';

/** What the insight room has. */
export const room: Room = {
  answers: [
    answers(insight.fulfilment, ({ parts, who, query }) =>
      fulfilment(parts.database, sumsOf(parts.database), who!.companyId, query, who!.workDate),
    ),
  ],
  files: insightFiles,
};
