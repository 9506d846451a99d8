import {
  decideChangePerson,
  decideInvite,
  decideKeepRole,
  decideMakeToken,
  passwordRefusals,
  type PeopleGround,
} from '.';

const HASH = 'a'.repeat(64);
const ground = (change: Partial<PeopleGround> = {}): PeopleGround => ({
  people: [
    { id: 1, name: 'Zainab', roleId: 1, outOfUse: false },
    { id: 2, name: 'Karim', roleId: 2, outOfUse: false },
    { id: 3, name: 'Lela', roleId: 1, outOfUse: true },
  ],
  roles: [
    { id: 1, name: 'Owner', rights: ['people', 'orders', 'goods'] },
    { id: 2, name: 'Stock keeper', rights: ['goods'] },
  ],
  own: ['people', 'orders', 'goods'],
  personId: 1,
  ...change,
});
const codes = (decision: { ok: boolean; refusals?: readonly { field: string; code: string }[] }) =>
  decision.ok ? [] : decision.refusals!.map(({ field, code }) => `${field}: ${code}`);

describe('U4 inviting', () => {
  const invite = (change: object = {}, at = ground()) =>
    decideInvite(at, { name: ' Karim ', roleId: 2, days: 7, tokenHash: HASH, ...change });
  it('lets somebody into a role for some days', () => {
    expect(invite()).toMatchObject({ ok: true, effects: { name: 'Karim', roleId: 2, days: 7 } });
    expect(codes(invite({ days: 1 }))).toEqual([]);
    expect(codes(invite({ days: 30 }))).toEqual([]);
  });
  it.each([
    ['name: required', { name: ' ' }],
    ['name: too-long', { name: 'x'.repeat(121) }],
    ['roleId: unknown', { roleId: 9 }],
    ['days: days-between', { days: 0 }],
    ['days: days-between', { days: 31 }],
    ['tokenHash: malformed', { tokenHash: 'A'.repeat(64) }],
    ['tokenHash: malformed', { tokenHash: `${HASH}a` }],
  ])('%s', (refusal, change) => expect(codes(invite(change))).toEqual([refusal]));
  it('gives nobody what one has not', () => {
    expect(codes(invite({ roleId: 1 }, ground({ own: ['people', 'goods'] })))).toEqual(['roleId: right-not-own']);
  });
});

describe('U4 changing what somebody may do', () => {
  const change = (typed: object, at = ground()) =>
    decideChangePerson(at, { personId: 2, roleId: 2, outOfUse: false, ...typed });
  it('another role, out of use at once, and back', () => {
    expect(change({ roleId: 1 })).toMatchObject({ ok: true, effects: { ends: false } });
    expect(change({ outOfUse: true })).toMatchObject({ ok: true, effects: { ends: true } });
    expect(change({ personId: 3, roleId: 1, outOfUse: true })).toMatchObject({ effects: { ends: false } });
  });
  it.each([
    [': not-oneself', { personId: 1, roleId: 1 }],
    ['personId: unknown', { personId: 9 }],
    ['roleId: unknown', { roleId: 9 }],
  ])('%s', (refusal, typed) => expect(codes(change(typed))).toEqual([refusal]));
  it('never leaves nobody who keeps people', () => {
    const other = ground({ personId: 2 });
    expect(codes(change({ personId: 1, roleId: 2 }, other))).toEqual([': last-keeper']);
    expect(codes(change({ personId: 1, roleId: 1, outOfUse: true }, other))).toEqual([': last-keeper']);
  });
  it('gives no role beyond one’s own rights, but lets one stay who has it', () => {
    const less = ground({ own: ['people'] });
    expect(codes(change({ roleId: 1 }, less))).toEqual(['roleId: right-not-own']);
    expect(codes(change({ outOfUse: true }, less))).toEqual([]);
  });
});

describe('U4 roles', () => {
  const keep = (typed: object, at = ground()) =>
    decideKeepRole(at, { id: 2, name: 'Stock keeper', rights: ['goods'], ...typed });
  it('are made and changed', () => {
    expect(keep({ id: null, name: ' Packer ', rights: ['goods'] })).toMatchObject({ effects: { name: 'Packer' } });
    expect(keep({ rights: ['goods', 'orders'] })).toMatchObject({ ok: true, effects: { rights: ['goods', 'orders'] } });
  });
  it.each([
    [': unknown', { id: 9, name: 'Nobody' }],
    ['name: required', { name: '' }],
    ['name: too-long', { name: 'x'.repeat(61) }],
    ['name: said-twice', { name: 'owner' }],
    ['rights: right-not-own', { rights: ['goods', 'payments'] }],
  ])('%s', (refusal, typed) => expect(codes(keep(typed))).toEqual([refusal]));
  it('keep what they had, whoever changes the rest', () => {
    const less = ground({ own: ['people'] });
    expect(codes(keep({ name: 'Store' }, less))).toEqual([]);
    expect(codes(keep({ rights: [] }, less))).toEqual([]);
  });
  it('never leave nobody who keeps people', () => {
    expect(codes(keep({ id: 1, name: 'Owner', rights: ['orders'] }))).toEqual(['rights: last-keeper']);
  });
});

describe('U4 tokens of programs', () => {
  const make = (change: object = {}) =>
    decideMakeToken(
      ['goods', 'orders'],
      { name: ' Scale ', rights: ['goods'], lastDay: '2027-03-31', tokenHash: HASH, ...change },
      '2027-03-01',
    );
  it('have rights and a last day', () => {
    expect(make()).toMatchObject({ ok: true, effects: { name: 'Scale', rights: ['goods'], lastDay: '2027-03-31' } });
    expect(codes(make({ lastDay: '2027-03-01' }))).toEqual([]);
  });
  it.each([
    ['name: required', { name: '' }],
    ['rights: required', { rights: [] }],
    ['rights: right-not-own', { rights: ['payments'] }],
    ['lastDay: not-a-day', { lastDay: null }],
    ['lastDay: not-a-day', { lastDay: '31/3' }],
    ['lastDay: days-order', { lastDay: '2027-02-28' }],
    ['tokenHash: malformed', { tokenHash: '' }],
  ])('%s', (refusal, change) => expect(codes(make(change))).toEqual([refusal]));
});

describe('U4 passwords', () => {
  const refused = (password: string, known: string[] = []) =>
    passwordRefusals(password, 'p', known, (each) => each === 'qwertyuiop').map(({ code }) => code);
  it('are long, not common, and nothing anybody knows of one', () => {
    expect(refused('otter lamp')).toEqual([]);
    expect(refused('otter lam')).toEqual(['password-short']);
    expect(refused('QWERTYUIOP')).toEqual(['password-common']);
    expect(refused('my karim is here', ['Karim'])).toEqual(['password-common']);
    expect(refused('a bo is not known', ['bo'])).toEqual([]);
    expect(refused('aaaabbbbcccc')).toEqual(['password-common']);
    expect(refused('aaaabbbbccccd')).toEqual([]);
  });
});
