import type { Sql } from '../db';
import { systemClock } from '../clock';
import { sessionsOn } from './sessions';

/** A database in which everybody is Salmah, in the company that is told; each question waits until it is answered. */
function asked() {
  const questions: ((companyId: number) => void)[] = [];
  const sql = {
    rows: () =>
      new Promise((resolve) =>
        questions.push((companyId) =>
          resolve([{ personId: 1, name: 'Salmah', companyId, rights: '[]', demo: 0, csrf: 'c' }]),
        ),
      ),
  } as unknown as Sql;
  return { questions, sessions: sessionsOn(sql, systemClock, 30) };
}

describe('sessions kept for a moment', () => {
  it('asks once for requests that follow each other, and anew for another token', async () => {
    const { questions, sessions } = asked();
    const first = sessions.of('a');
    questions[0]!(7);
    expect((await first)!.companyId).toBe(7);
    expect((await sessions.of('a'))!.companyId).toBe(7);
    expect(questions).toHaveLength(1);
    void sessions.of('b');
    expect(questions).toHaveLength(2);
  });

  it('what was forgotten is asked for again, also where it was being read just then', async () => {
    const { questions, sessions } = asked();
    const before = sessions.of('a');
    sessions.forget();
    questions[0]!(7);
    await before;
    const after = sessions.of('a');
    expect(questions).toHaveLength(2);
    questions[1]!(8);
    expect((await after)!.companyId).toBe(8);
  });
});
