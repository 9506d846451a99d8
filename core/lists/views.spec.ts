import { decideDropView, decideKeepView, MOST_VIEWS, type KeptView } from './views';

const ME = 1;
const OTHER = 2;
const view = (over: Partial<KeptView> = {}): KeptView => ({ id: 7, name: 'North', forAll: false, keptBy: ME, ...over });
const codes = (decision: { ok: boolean; refusals?: { code: string; field: string }[] }) =>
  decision.ok ? [] : decision.refusals!.map(({ code, field }) => `${field}: ${code}`);

describe('keeping a view of a list', () => {
  it('takes a new name, trimmed', () => {
    expect(decideKeepView([view()], { name: ' South ', forAll: false }, ME)).toMatchObject({
      ok: true,
      effects: { name: 'South', replaces: null },
    });
  });

  it('takes the place of one of its name, whatever its letters, for the same people', () => {
    const typed = { name: 'NORTH', forAll: false };
    expect(decideKeepView([view()], typed, ME)).toMatchObject({ ok: true, effects: { name: 'NORTH', replaces: 7 } });
    expect(decideKeepView([view()], { ...typed, forAll: true }, ME)).toMatchObject({
      ok: true,
      effects: { replaces: null },
    });
  });

  it('leaves what somebody else keeps for all', () => {
    const theirs = [view({ forAll: true, keptBy: OTHER })];
    expect(codes(decideKeepView(theirs, { name: 'north', forAll: true }, ME))).toEqual(['name: view-of-another']);
  });

  it('wants a name', () => {
    expect(codes(decideKeepView([], { name: '  ', forAll: false }, ME))).toEqual(['name: required']);
  });

  it('keeps so many and no more, but changes those there are', () => {
    const all = Array.from({ length: MOST_VIEWS }, (_, at) => view({ id: at + 1, name: `View ${at}` }));
    expect(codes(decideKeepView(all, { name: 'One more', forAll: false }, ME))).toEqual(['name: too-many-views']);
    expect(codes(decideKeepView(all.slice(1), { name: 'One more', forAll: false }, ME))).toEqual([]);
    expect(decideKeepView(all, { name: 'view 3', forAll: false }, ME)).toMatchObject({ effects: { replaces: 4 } });
  });
});

describe('dropping a view of a list', () => {
  it.each([
    ['own', view(), false, true],
    ['own that is for all', view({ forAll: true }), false, true],
    ["another's for all, by who keeps the lists", view({ forAll: true, keptBy: OTHER }), true, true],
    ["another's for all", view({ forAll: true, keptBy: OTHER }), false, false],
    ["another's own, by who keeps the lists", view({ keptBy: OTHER }), true, false],
  ])('%s', (_what, dropped, keepsLists, may) => {
    const decision = decideDropView(dropped, ME, keepsLists);
    expect(decision.ok).toBe(may);
    if (!may) expect(codes(decision)).toEqual([': view-of-another']);
  });
});
