import { decideLogo, MOST_LOGO } from './logo';

const PNG = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
const JPEG = [0xff, 0xd8, 0xff, 0xe0];
const file = (bytes: number[], length = bytes.length) => {
  const whole = Buffer.alloc(length);
  whole.set(bytes);
  return whole.toString('base64');
};
const codes = (base64: string) => {
  const decision = decideLogo(base64);
  return decision.ok ? [] : decision.refusals.map(({ code }) => code);
};

describe('a logo for our paper', () => {
  it.each([
    ['PNG', PNG],
    ['JPEG', JPEG],
  ])('is a %s', (_kind, bytes) => {
    expect(decideLogo(file(bytes, 500))).toMatchObject({
      ok: true,
      effects: { image: expect.objectContaining({ length: 500 }) },
    });
  });

  it.each([
    ['something else', file([0x47, 0x49, 0x46, 0x38], 300)],
    ['cut short', file(PNG.slice(0, 5))],
    ['no base64', 'data:image/png'],
  ])('is not %s', (_what, base64) => expect(codes(base64)).toEqual(['not-an-image']));

  it('is no larger than paper wants', () => {
    expect(codes(file(PNG, MOST_LOGO))).toEqual([]);
    expect(codes(file(PNG, MOST_LOGO + 1))).toEqual(['image-too-large']);
  });

  it('is taken off by none', () => expect(decideLogo('')).toMatchObject({ ok: true, effects: { image: null } }));
});
