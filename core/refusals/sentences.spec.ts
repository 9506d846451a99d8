import { refuse, sentenceOf, sentences, type RefusalCode } from './index';

describe('refusals', () => {
  it('G3 say what, why and the way out in one sentence', () => {
    const said = sentenceOf(
      refuse('above-limit', 'lines.0.quantity', {
        item: 'RO-4040',
        asked: '41',
        left: '40',
        unit: 'piece',
        agreement: 'AG-0001',
      }),
    );
    expect(said).toBe('41 pieces of RO-4040 are more than the 40 left on AG-0001; ask 40 or less.');
    expect(
      sentenceOf(
        refuse('above-limit', '', { item: 'RO-4040', asked: '1', left: '0', unit: 'piece', agreement: 'AG-0001' }),
      ),
    ).toContain('Nothing of RO-4040 is left');
  });

  it('G3 each is one line that ends as a sentence', () => {
    const facts = new Proxy({}, { get: () => '1' });
    for (const code of Object.keys(sentences) as RefusalCode[]) {
      const said = (sentences[code] as (facts: unknown) => string)(facts);
      expect(said).toMatch(/^[A-Z0-9].*[.]$/);
      expect(said).not.toContain('undefined');
    }
  });
});
