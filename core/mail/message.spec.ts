import { decideMessage, isAddress } from './index';

describe('a message to a party', () => {
  it.each([
    ['stores@teratai-bay.example', true],
    ['a.b+c@d.example', true],
    ['stores@teratai', false],
    ['stores teratai@bay.example', false],
    ['a@b.example, c@d.example', false],
    ['@b.example', false],
    ['a@b..', false],
    [`${'a'.repeat(65)}@b.example`, false],
  ])('%s', (text, expected) => {
    expect(isAddress(text)).toBe(expected);
  });

  it('is kept without needless space, its subject on one line', () => {
    expect(
      decideMessage({ recipient: ' a@b.example ', subject: 'Your\n order ', body: ' Here it is. ' }),
    ).toMatchObject({
      effects: { recipient: 'a@b.example', subject: 'Your order', body: 'Here it is.' },
    });
  });

  it('says everything that is missing at once', () => {
    const decision = decideMessage({ recipient: 'x', subject: ' ', body: '' });
    expect(!decision.ok && decision.refusals.map(({ field, code }) => `${field}: ${code}`)).toEqual([
      'recipient: not-an-address',
      'subject: required',
      'body: required',
    ]);
  });
});
