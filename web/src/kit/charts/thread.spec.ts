import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { buildThread, type Part, type ThreadRows } from '@core/supply';
import type { DocumentKind } from '@core/kernel';
import { ThreadView } from './thread';

const part = (kind: DocumentKind, id: number, quantity: string, more: Partial<Part> = {}): Part => ({
  document: { kind, id, number: `${kind}-000${id}` },
  quantity,
  day: '2027-03-05',
  note: '',
  filled: 1,
  ...more,
});

/** 12 ordered and bought, 8 of them received, shipped and invoiced. */
const rows: ThreadRows = {
  quantity: '12',
  purchased: true,
  bought: true,
  agreed: null,
  ordered: part('SO', 1, '12'),
  supplies: [part('PO', 2, '12', { filled: 8 / 12, differs: 'date' })],
  moves: [{ supply: 0, receipt: part('RC', 3, '8'), shipment: part('SH', 4, '8') }],
  invoices: [{ moves: [0], part: part('CI', 5, '8'), paid: null }],
  vendorInvoices: [],
};
const thread = {
  orderLineId: 3,
  title: 'line 1 · RO-4040 · 12 pieces',
  ...buildThread(rows),
  undone: [
    {
      document: { kind: 'SH' as const, id: 8, number: 'SH-0008' },
      quantity: '2',
      by: { kind: 'SH' as const, id: 9, number: 'SH-0009' },
      day: '2027-03-04',
    },
  ],
};

describe('the thread', () => {
  let element: HTMLElement;
  beforeEach(async () => {
    TestBed.configureTestingModule({ providers: [provideRouter([])] });
    const fixture = TestBed.createComponent(ThreadView);
    fixture.componentRef.setInput('thread', thread);
    fixture.componentRef.setInput('workDate', '2027-03-01');
    await fixture.whenStable();
    element = fixture.nativeElement as HTMLElement;
  });

  it('calls what no vendor will invoice made, not received', async () => {
    const made = buildThread({ ...rows, bought: false, supplies: [], moves: [], invoices: [] });
    const fixture = TestBed.createComponent(ThreadView);
    fixture.componentRef.setInput('thread', { ...thread, ...made });
    fixture.componentRef.setInput('workDate', '2027-03-01');
    await fixture.whenStable();
    const text = (fixture.nativeElement as HTMLElement).textContent;
    expect(text).toContain('Made');
    expect(text).not.toContain('Received');
    expect(element.textContent).toContain('Received');
  });

  it('leads from each bead that happened to its document', () => {
    const links = [...element.querySelectorAll('svg a')].map((link) => link.getAttribute('href'));
    expect(links).toEqual(['/orders/1', '/purchases/2', '/receipts/3', '/shipments/4', '/billing/customer/5']);
  });

  it('says in words what the drawing shows', () => {
    const words = [...element.querySelectorAll('[aria-label]')].map((each) => each.getAttribute('aria-label'));
    expect(words).toContain('Supply, PO-0002: 67 per cent, the two ends differ, 12 · Fri 5 Mar');
    expect(words).toContain('Received, RC-0003: done, 8 · Fri 5 Mar');
    expect(words).toContain('Received: not begun, 4 to come');
    expect(element.textContent).toContain('differs in date');
  });

  it('draws two strings where the quantities part, dotted where it has not happened', () => {
    const strings = [...element.querySelectorAll('path.string')];
    expect(strings.filter((path) => path.getAttribute('d')!.includes('C'))).toHaveLength(2);
    expect(strings.some((path) => path.classList.contains('open'))).toBe(true);
  });

  it('P1 names what was taken back, and by what', () => {
    const [undone] = [...element.querySelectorAll('li')];
    expect(undone!.textContent!.replace(/\s+/g, ' ').trim()).toBe('SH-0008 of 2, taken back by SH-0009 on Thu 4 Mar');
    expect([...undone!.querySelectorAll('a')].map((link) => link.getAttribute('href'))).toEqual([
      '/shipments/8',
      '/shipments/9',
    ]);
  });
});
