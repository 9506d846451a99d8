import { decideSending } from './sending';

describe('what is sent to a company elsewhere', () => {
  const due = { number: 'PO-7', revision: 1, gone: false, returned: false, name: 'Gading', email: 'a@gading.example' };
  const send = (change: Partial<typeof due>, typed: { revision?: number; gone?: boolean; how: 'mail' | 'file' }) => {
    const decision = decideSending({ ...due, ...change }, { revision: 1, gone: false, ...typed });
    return decision.ok ? decision.effects : decision.refusals;
  };

  it('goes by mail where she has an address, and as a file always', () => {
    expect(send({}, { how: 'mail' })).toEqual({ how: 'mail' });
    for (const change of [{}, { email: '' }, { returned: true }])
      expect(send(change, { how: 'file' })).toEqual({ how: 'file' });
    for (const change of [{ email: '' }, { returned: true }])
      expect(send(change, { how: 'mail' })).toEqual([
        { code: 'no-mail-address', field: 'how', facts: { sister: 'Gading' } },
      ]);
  });

  it('goes as it was seen', () => {
    const moved = [{ code: 'due-moved', field: '', facts: { number: 'PO-7' } }];
    expect(send({}, { revision: 0, how: 'file' })).toEqual(moved);
    expect(send({ gone: true }, { how: 'file' })).toEqual(moved);
    expect(send({ email: '' }, { revision: 0, how: 'mail' })).toEqual(moved);
  });
});
