export interface Area {
  x: number;
  y: number;
  width: number;
  height: number;
}

/**
 * Rectangles that fill a field, each with an area in proportion to its value, in the order given (largest first reads
 * best) and as near to squares as a row or column of them can be. Values must be above zero. O(n²) for a few dozen.
 */
export function areasOf(values: readonly number[], width: number, height: number): Area[] {
  const total = values.reduce((sum, value) => sum + value, 0);
  if (total <= 0) return [];
  const scale = (width * height) / total;
  const areas: Area[] = [];
  let field: Area = { x: 0, y: 0, width, height };
  let rest = values.map((value) => value * scale);
  while (rest.length > 0) {
    const side = Math.min(field.width, field.height);
    let count = 1;
    while (count < rest.length && worst(rest.slice(0, count + 1), side) <= worst(rest.slice(0, count), side))
      count += 1;
    const laid = rest.slice(0, count);
    areas.push(...layOut(laid, field));
    field = without(field, laid);
    rest = rest.slice(count);
  }
  return areas;
}

const sumOf = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0);

/** The least square of a row's rectangles: its longest side by its shortest. */
function worst(row: readonly number[], side: number): number {
  const depth = sumOf(row) / side;
  return Math.max(...row.map((value) => Math.max(depth / (value / depth), value / depth / depth)));
}

/** A row along the field's shorter side. */
function layOut(row: readonly number[], field: Area): Area[] {
  const upright = field.width >= field.height;
  const depth = sumOf(row) / (upright ? field.height : field.width);
  let along = 0;
  return row.map((value) => {
    const length = value / depth;
    const area = upright
      ? { x: field.x, y: field.y + along, width: depth, height: length }
      : { x: field.x + along, y: field.y, width: length, height: depth };
    along += length;
    return area;
  });
}

function without(field: Area, row: readonly number[]): Area {
  if (field.width >= field.height) {
    const depth = sumOf(row) / field.height;
    return { ...field, x: field.x + depth, width: field.width - depth };
  }
  const depth = sumOf(row) / field.width;
  return { ...field, y: field.y + depth, height: field.height - depth };
}
