import * as z from 'zod';
import { Id, namedOnce } from './kit';

describe('a list whose members are named once', () => {
  it('is told where something is named again, and where it was named first', () => {
    const list = namedOnce(z.array(z.object({ id: Id.nullable(), quantity: z.string() })).max(5), 'id');
    const rows = [7, null, 9, null, 7, 7].map((id) => ({ id, quantity: '1' }));
    expect(list.safeParse(rows.slice(0, 4)).success).toBe(true);
    expect(list.safeParse(rows.slice(0, 5)).error!.issues).toMatchObject([
      { code: 'custom', path: [4, 'id'], params: { first: 0 } },
    ]);
    expect(list.safeParse(rows).error!.issues.map((issue) => issue.code)).toContain('too_big');
    const ids = namedOnce(z.array(Id));
    expect(ids.safeParse([3, 4]).success).toBe(true);
    expect(ids.safeParse([3, 4, 3]).error!.issues).toMatchObject([{ path: [2], params: { first: 0 } }]);
  });
});
