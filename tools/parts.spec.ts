import { unfree, type Part } from './parts';

describe('licences', () => {
  const part = (licenses?: Part['licenses']): Part => ({
    name: 'part',
    version: '1.0.0',
    ...(licenses ? { licenses } : {}),
  });

  it('are told and free, by one of several or by all that hold together', () => {
    expect(unfree({ components: [part([{ license: { id: 'MIT' } }])] })).toEqual([]);
    expect(unfree({ components: [part([{ expression: '(GPL-2.0 OR MIT)' }])] })).toEqual([]);
    expect(unfree({ components: [part([{ expression: 'MIT AND GPL-2.0' }])] })).toEqual([
      'part 1.0.0: MIT AND GPL-2.0',
    ]);
    expect(unfree({ components: [part([{ license: { id: 'AGPL-3.0' } }])] })).toEqual(['part 1.0.0: AGPL-3.0']);
    expect(unfree({ components: [part()] })).toEqual(['part 1.0.0: no licence told']);
  });
});
