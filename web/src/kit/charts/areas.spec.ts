import { areasOf } from './areas';

describe('areas in proportion', () => {
  const values = [600, 600, 400, 300, 200, 200, 100];

  it('fill the field, each in proportion to its value', () => {
    const areas = areasOf(values, 600, 400);
    expect(areas).toHaveLength(values.length);
    const total = values.reduce((sum, value) => sum + value, 0);
    areas.forEach((area, index) => {
      expect(area.width * area.height).toBeCloseTo((values[index]! / total) * 240_000, 6);
      expect(area.x).toBeGreaterThanOrEqual(0);
      expect(area.x + area.width).toBeLessThanOrEqual(600.000001);
      expect(area.y + area.height).toBeLessThanOrEqual(400.000001);
    });
  });

  it('do not overlap', () => {
    const areas = areasOf(values, 600, 400);
    for (const [index, a] of areas.entries()) {
      for (const b of areas.slice(index + 1)) {
        const apart =
          a.x + a.width <= b.x + 1e-6 ||
          b.x + b.width <= a.x + 1e-6 ||
          a.y + a.height <= b.y + 1e-6 ||
          b.y + b.height <= a.y + 1e-6;
        expect(apart).toBe(true);
      }
    }
  });

  it('stay near to squares', () => {
    for (const { width, height } of areasOf(values, 600, 400)) {
      expect(Math.max(width / height, height / width)).toBeLessThan(3);
    }
  });

  it('are none where there is nothing', () => {
    expect(areasOf([], 600, 400)).toEqual([]);
  });
});
