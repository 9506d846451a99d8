import { refusal, Stage } from '../../../test/stage';
import { bringInAgreements } from '@api/formats';
import { ImportSheet, type ImportData } from './import-sheet';

const data: ImportData = {
  endpoint: bringInAgreements,
  one: 'agreement',
  counts: 'agreements',
  sub: '',
  accept: '.csv',
  hint: 'One row for each line.',
  columns: null,
};

const good = { agreements: 2, rows: 5, good: 2, problems: [] };
const bad = {
  agreements: 3,
  rows: 6,
  good: 1,
  problems: [
    { line: 3, column: 'item', sentence: 'There is no item XX-1.' },
    { line: 4, column: 'committed', sentence: 'The committed quantity must be a number above zero.' },
  ],
};

async function stageOf(found: unknown, refused?: ReturnType<typeof refusal>[]) {
  const stage = await Stage.of(ImportSheet, { data, previews: () => found, refused });
  const give = async (name: string, content: string) => {
    const field = stage.field('File of agreements');
    Object.defineProperty(field, 'files', { value: [new File([content], name)], configurable: true });
    field.dispatchEvent(new Event('change'));
    await stage.rests();
  };
  return { stage, give };
}

describe('the import of agreements', () => {
  it('does nothing before a file was read', async () => {
    const { stage } = await stageOf(good);
    expect(stage.button('Bring them in').disabled).toBe(true);
    await stage.send();
    expect(stage.acted).toEqual([]);
  });

  it('sends the bytes of the file, and says what is in it before anything is made', async () => {
    const { stage, give } = await stageOf(good);
    await give('year.csv', 'agreement,customer\n');
    expect(stage.previewed[0]!.input).toEqual({
      name: 'year.csv',
      content: Buffer.from('agreement,customer\n').toString('base64'),
      goodOnly: false,
      look: true,
    });
    expect(stage.text()).toContain('2 agreements with 5 lines, all good.');
    expect(stage.text('footer')).toContain('2 drafts will be made');
    expect(stage.acted).toEqual([]);
    await stage.send();
    expect(stage.acted[0]!.input).toMatchObject({ name: 'year.csv', goodOnly: false });
    expect(stage.closed).toHaveLength(1);
  });

  it('names each bad line and column, and takes the good ones only when told so', async () => {
    const { stage, give } = await stageOf(bad);
    await give('year.csv', 'x');
    expect(stage.rows()).toEqual([
      ['3', 'item', 'There is no item XX-1.'],
      ['4', 'committed', 'The committed quantity must be a number above zero.'],
    ]);
    await stage.send();
    expect(stage.acted).toEqual([]);
    await stage.choose('Take the good lines');
    expect(stage.text('footer')).toContain('1 draft will be made');
    await stage.press('Take the good lines');
    await stage.send();
    expect(stage.acted[0]!.input).toMatchObject({ goodOnly: true });
  });

  it('offers no good lines where there are none', async () => {
    const { stage, give } = await stageOf({ ...bad, good: 0 });
    await give('year.csv', 'x');
    expect(() => stage.field('Take the good lines')).toThrow('no field');
    expect(stage.button('Bring them in').disabled).toBe(true);
  });

  it('says that a file cannot be read, and reads another that is dropped', async () => {
    const { stage, give } = await stageOf({
      refusals: [refusal('file-unreadable', '', 'Not a table.')],
      effects: null,
    });
    await give('photo.csv', 'x');
    expect(stage.text()).toContain('Not a table.');
    const dropped = new Event('drop', { cancelable: true });
    Object.defineProperty(dropped, 'dataTransfer', { value: { files: [new File(['a'], 'other.xlsx')] } });
    stage.element.querySelector('.drop')!.dispatchEvent(dropped);
    await stage.rests();
    expect(dropped.defaultPrevented).toBe(true);
    expect(stage.previewed.map((each) => each.input['name'])).toEqual(['photo.csv', 'other.xlsx']);
  });

  it('keeps the file where it was refused', async () => {
    const { stage, give } = await stageOf(good, [refusal('busy', '', 'Try again.')]);
    await give('year.csv', 'x');
    await stage.send();
    expect(stage.text()).toContain('Try again.');
    await stage.send();
    expect(stage.closed).toHaveLength(1);
  });
});
