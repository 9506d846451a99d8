import { Piece, TextPiece } from './piece';

/**
 * JSON of plain objects, lists and values in which pieces stand for what only the database can tell: a text where there
 * are none, otherwise the piece that puts it together. A text piece is quoted, any other stands as the number it gives.
 */
export function jsonOf(value: unknown): string | Piece {
  const parts: (string | Piece)[] = [];
  const text = (added: string) => {
    if (typeof parts.at(-1) === 'string') parts[parts.length - 1] += added;
    else parts.push(added);
  };
  const add = (each: unknown): void => {
    if (each instanceof TextPiece) {
      text('"');
      parts.push(each);
      text('"');
    } else if (each instanceof Piece) parts.push(each);
    else if (Array.isArray(each)) {
      text('[');
      each.forEach((item, index) => {
        if (index > 0) text(',');
        add(item);
      });
      text(']');
    } else if (typeof each === 'object' && each !== null) {
      text('{');
      Object.entries(each)
        .filter(([, item]) => item !== undefined)
        .forEach(([key, item], index) => {
          text(`${index > 0 ? ',' : ''}${JSON.stringify(key)}:`);
          add(item);
        });
      text('}');
    } else text(JSON.stringify(each));
  };
  add(value);
  if (parts.length === 1 && typeof parts[0] === 'string') return parts[0];
  const sql = parts.map((part) => (typeof part === 'string' ? '?' : part.sql)).join(', ');
  return new Piece(
    `CONCAT(${sql})`,
    parts.flatMap((part) => (typeof part === 'string' ? [part] : part.values)),
  );
}
