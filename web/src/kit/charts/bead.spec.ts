import { TestBed } from '@angular/core/testing';
import { Bead, beadsElement, beadWords, pie } from './bead';

describe('bead', () => {
  it.each([
    [0, ''],
    [-1, ''],
    [0.25, 'M 8 8 V 4 A 4 4 0 0 1 12.00 8.00 Z'],
    [0.75, 'M 8 8 V 4 A 4 4 0 1 1 4.00 8.00 Z'],
    [1, 'M 8 4 A 4 4 0 1 1 7.99 4 Z'],
    [7, 'M 8 4 A 4 4 0 1 1 7.99 4 Z'],
  ])('draws the share %s clockwise from the top', (share, outline) => expect(pie(8, 8, 4, share)).toBe(outline));

  it('reads aloud how far it is, where the ends differ, and that it is cancelled', () => {
    expect(beadWords('Shipped', 0.5, false, false)).toBe('Shipped: 50 per cent');
    expect(beadWords('Supply', 1, true, false)).toBe('Supply: done, the two ends differ');
    expect(beadWords('Supply', 0, false, true)).toBe('Supply: cancelled');
    expect(beadWords('Paid', 0, false, false)).toBe('Paid: not begun');
  });

  it('draws a row of beads with one label for all', () => {
    const svg = beadsElement([
      { label: 'Supply', share: 1, notch: true },
      { label: 'Shipped', share: 0.4 },
      { label: 'Paid', share: 0, struck: true },
    ]);
    expect(svg.querySelectorAll('circle')).toHaveLength(3);
    expect(svg.querySelectorAll('.notch')).toHaveLength(1);
    expect(svg.querySelectorAll('.bar')).toHaveLength(1);
    expect(svg.getAttribute('aria-label')).toBe(
      'Supply: done, the two ends differ; Shipped: 40 per cent; Paid: cancelled',
    );
  });

  it('is a picture with words for who cannot see it', async () => {
    const fixture = TestBed.createComponent(Bead);
    fixture.componentRef.setInput('share', 0.5);
    fixture.componentRef.setInput('label', 'AG-0003');
    await fixture.whenStable();
    const svg = (fixture.nativeElement as HTMLElement).querySelector('svg')!;
    expect(svg.getAttribute('aria-label')).toBe('AG-0003: 50 per cent');
    expect(svg.querySelector('.notch')).toBeNull();
  });
});
