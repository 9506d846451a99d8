import { Piece, TextPiece } from './piece';
import { jsonOf } from './json';

describe('JSON with pieces of the database', () => {
  it('is plain JSON where there are none', () => {
    const value = { a: [1, 'two "quoted"', null, true], b: { c: 'é' }, d: undefined };
    expect(jsonOf(value)).toBe(JSON.stringify(value));
    expect(jsonOf([])).toBe('[]');
  });

  it('is put together of texts and pieces in their order, with their own values', () => {
    const id = new Piece('@new + ?', [3]);
    const piece = jsonOf([{ kind: 'RC', id, number: new TextPiece("CONCAT('RC-', @n)") }, { id }]) as Piece;
    expect(piece.sql).toBe("CONCAT(?, @new + ?, ?, CONCAT('RC-', @n), ?, @new + ?, ?)");
    expect(piece.values).toEqual(['[{"kind":"RC","id":', 3, ',"number":"', '"},{"id":', 3, '}]']);
  });
});
