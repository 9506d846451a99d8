import { existsSync } from 'node:fs';
import { FALLBACK_FONTS, isFontFile, readable } from './set-text';
import { setPdf } from './set-pdf';

describe('texts on paper', () => {
  it('are as they are where the built-in font has all of them', () => {
    for (const text of ['Membrane, 4 × 40 in', '25 °C – “hot” … 12,5 €', 'Jalan Añejo\nnext', '']) {
      expect(readable(text)).toBe(text);
    }
  });

  it('are in runs of a font that has what it lacks', () => {
    expect(readable('−3,152.40')).toBe('–3,152.40');
    expect(readable({ text: 'Łódź', bold: true })).toEqual({
      text: [{ text: 'Ł', font: 'latin-ext' }, { text: 'ód' }, { text: 'ź', font: 'latin-ext' }],
      bold: true,
    });
    expect(readable({ text: ['plain ', { text: 'Вода', italics: true }] })).toEqual({
      text: ['plain ', { text: [{ text: 'Вода', font: 'cyrillic' }], italics: true }],
    });
  });

  it('are looked at wherever they stand', () => {
    const said = (text: string) => ({ text: [{ text, font: 'greek' }] });
    expect(
      readable([
        { stack: ['Ω'] },
        { columns: ['Ω', { text: 'a' }] },
        { ul: ['Ω'] },
        { table: { widths: ['*'], body: [['Ω', 'a']] } },
        { image: 'data:' },
      ]),
    ).toEqual([
      { stack: [said('Ω')] },
      { columns: [said('Ω'), { text: 'a' }] },
      { ul: [said('Ω')] },
      { table: { widths: ['*'], body: [[said('Ω'), 'a']] } },
      { image: 'data:' },
    ]);
  });

  it('show that something is there where no font has it, and never something else', () => {
    expect(readable('水泵')).toEqual({ text: [{ text: '\ufffd\ufffd', font: 'latin' }] });
  });

  it('are set with fonts that ship with Kampong, and none from elsewhere', async () => {
    const files = Object.values(FALLBACK_FONTS).flatMap((font) => Object.values(font));
    for (const file of files) expect([file, existsSync(file), isFontFile(file)]).toEqual([file, true, true]);
    expect(isFontFile('/etc/passwd')).toBe(false);
    const pdf = await setPdf({
      number: 'CI-1',
      party: 'Łódź',
      company: 'Kedai',
      content: ['−3,152.40', { text: 'Łódź Вода Ωμέγα ằ 水', bold: true }],
      foot: 'Łódź',
    });
    expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
    // The parts of the font that were used are in it, in both weights.
    const names = new Set(pdf.toString('latin1').match(/\/BaseFont \/[A-Z]+\+SourceSans3-\w+/g));
    expect([...names].some((name) => name.endsWith('Bold'))).toBe(true);
    expect(names.size).toBeGreaterThanOrEqual(5);
  });
});
