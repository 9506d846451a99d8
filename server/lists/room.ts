import * as lists from '@api/lists';
import { answers, reads, Refusals, type Parts, type Room } from '../room';
import { refuse } from '@core/refusals';
import { lookAgainAt, stopBroughtIn, takeBroughtIn } from './bring-in/acts';
import { readForList } from './bring-in/read';
import { listBroughtIn, openBroughtIn } from './bring-in/reads';
import { keepFile } from './bring-in/store';
import { bringInQueue } from './bring-in/work';
import { listFiles } from './files';
import { keepList, openList } from './lists';
import { findNamed } from './named';
import { dropView, keepView, listViews } from './views';

/** Something waits to be looked at or taken. */
const poke = ({ database, log }: Parts) => bringInQueue(database, log).poke();

/** What the lists room has. */
export const room: Room = {
  files: listFiles,
  acts: [keepList, keepView, dropView, takeBroughtIn, lookAgainAt, stopBroughtIn],
  after: { takeBroughtIn: poke, lookAgainAt: poke },
  answers: [
    reads(lists.openList, (sql, companyId, { params, query }) => openList(sql, companyId, params.list, query)),
    answers(lists.bringIn, async ({ parts, who, body }) => {
      const content = Buffer.from(body.content, 'base64');
      const read = await readForList(body.name, content, body.list);
      if (Array.isArray(read)) throw new Refusals(422, read);
      const { companyId, personId, workDate, rights } = who!;
      const { keptBy, label } = read.list;
      if (keptBy && !rights.includes(keptBy))
        throw new Refusals(403, [refuse('no-right', '', { act: `keep ${label}` })]);
      const id = await keepFile(parts.database, { companyId, personId, workDate }, body.name, read);
      poke(parts);
      return { id };
    }),
    reads(lists.listBroughtIn, (sql, companyId) => listBroughtIn(sql, companyId)),
    reads(lists.openBroughtIn, (sql, companyId, { params }) => openBroughtIn(sql, companyId, params.id)),
    reads(lists.findNamed, (sql, companyId, { params, query }) => findNamed(sql, companyId, params.target, query.q)),
    answers(lists.listViews, ({ parts, who, params }) =>
      parts.database.snapshot((sql) => listViews(sql, who!.companyId, params.list, who!.personId)),
    ),
  ],
};
