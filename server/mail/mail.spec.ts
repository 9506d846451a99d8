import { layDesk } from '../sample/desk';
import { agreed, placed, World, WORK_DATE, type Visitor } from '../testing/world';

interface Draft {
  party: string;
  recipient: string;
  subject: string;
  body: string;
  attachment: string;
  sentOn: string | null;
}

describe('documents on their way to parties', () => {
  let world: World;
  let salmah: Visitor;
  let documents: { kind: string; id: number }[];

  beforeAll(async () => {
    world = await World.make();
    await layDesk(world.serving.database, world.masters, WORK_DATE, 7);
    salmah = await world.visitor();
    const agreement = await agreed(world, salmah);
    const { orderId, purchaseId, purchaseLineId } = await placed(world, salmah, agreement, '6');
    const moved = await salmah.does('receiveGoods', { purchaseId, lines: [{ lineId: purchaseLineId, quantity: '6' }] });
    const [invoice] = await salmah.does('invoiceCustomer', { orderId });
    const [note] = await salmah.does('creditInvoice', {
      invoiceId: invoice!.id,
      kind: 'reversal',
      reason: 'Wrong',
      lines: [],
    });
    documents = [
      { kind: 'AG', id: agreement.id },
      { kind: 'SO', id: orderId },
      { kind: 'PO', id: purchaseId },
      { kind: 'SH', id: moved.find((each) => each.kind === 'SH')!.id },
      { kind: 'CI', id: invoice!.id },
      { kind: 'CN', id: note!.id },
    ];
  });
  afterAll(() => world.end());

  const file = async (path: string) => {
    const answer = await fetch(`${world.serving.address}${path}`, { headers: { cookie: salmah.cookie } });
    return {
      status: answer.status,
      type: answer.headers.get('content-type'),
      bytes: Buffer.from(await answer.arrayBuffer()),
    };
  };
  const idOf = (kind: string) => documents.find((each) => each.kind === kind)!.id;

  it('each is a PDF of its own, named by its number', async () => {
    const sizes = new Set<number>();
    for (const { kind, id } of documents) {
      const { status, type, bytes } = await file(`/api/documents/${kind}/${id}/pdf`);
      expect([kind, status, type, bytes.subarray(0, 5).toString()]).toEqual([kind, 200, 'application/pdf', '%PDF-']);
      sizes.add(bytes.length);
    }
    expect(sizes.size).toBe(documents.length);
    expect((await file('/api/documents/JR/1/pdf')).status).toBe(404);
    expect((await file('/api/documents/SO/999999/pdf')).status).toBe(404);
    expect((await file('/api/documents/XX/1/pdf')).status).toBe(400);
  });

  it('is sent to the party’s address, kept with its attachment, and said to be sent', async () => {
    const drafted = () => salmah.get<Draft>(`/api/documents/SO/${idOf('SO')}/message`);
    const draft = await drafted();
    expect(draft).toMatchObject({
      party: 'Teratai Bay Resort',
      recipient: 'stores@teratai-bay-resort.example',
      subject: 'Order confirmation SO-0001',
      sentOn: null,
    });
    expect(draft.body).toContain('Salmah, Hulu Bening Water Works');
    const { recipient, subject, body } = draft;
    await salmah.does('sendDocument', { kind: 'SO', id: idOf('SO'), recipient, subject, body });
    expect((await drafted()).sentOn).toBe(WORK_DATE);
    const { rows } = await salmah.get<{ rows: { id: number; subject: string; person: string }[] }>(
      '/api/messages?q=SO-0001',
    );
    expect(rows).toMatchObject([{ subject: 'Order confirmation SO-0001', person: 'Salmah' }]);
    const message = await salmah.get<{ body: string; attachment: string; bytes: number }>(
      `/api/messages/${rows[0]!.id}`,
    );
    expect(message).toMatchObject({ body, attachment: 'SO-0001.pdf' });
    const sent = await file(`/api/messages/${rows[0]!.id}/attachment`);
    expect([sent.bytes.length, sent.bytes.subarray(0, 5).toString()]).toEqual([message.bytes, '%PDF-']);
    const vendor = await salmah.get<Draft>(`/api/documents/PO/${idOf('PO')}/message`);
    expect(vendor.recipient).toBe('sales@arus-membrane-supply.example');
  });

  it('sent twice with one key it is sent once; a bad address and empty words are refused at their fields', async () => {
    const input = { kind: 'CI', id: idOf('CI'), recipient: 'a@b.example', subject: 'Invoice', body: 'Here.' };
    await salmah.does('sendDocument', input, 'one-key-for-both');
    await salmah.does('sendDocument', input, 'one-key-for-both');
    const { rows } = await salmah.get<{ rows: unknown[] }>('/api/messages?q=a@b.example');
    expect(rows).toHaveLength(1);
    const refused = await salmah.refused('sendDocument', { ...input, recipient: 'nobody', body: ' ' });
    expect(refused.codes).toEqual(['recipient: not-an-address', 'body: required']);
    expect((await salmah.refused('sendDocument', { ...input, id: 999_999 })).status).toBe(404);
  });

  it('a draft is sent once, whoever is first, and goes with it', async () => {
    const { database } = world.serving;
    const { companyId, people } = world.masters;
    await database.run(
      `INSERT INTO message_draft (company_id, written_on, person_id, recipient, party, subject, body, document_kind, document_id, document_number)
         VALUES (?, ?, ?, 'x@y.example', 'Teratai Bay Resort', 'New day', 'Later.', 'SO', ?, 'SO-0001')`,
      [companyId, WORK_DATE, people.get('salmah')!, idOf('SO')],
    );
    const { rows } = await salmah.get<{ rows: { id: number; recipient: string }[] }>('/api/message-drafts?q=Teratai');
    expect(rows).toMatchObject([{ recipient: 'x@y.example' }]);
    const input = {
      kind: 'SO',
      id: idOf('SO'),
      recipient: 'x@y.example',
      subject: 'New day',
      body: 'Later.',
      draftId: rows[0]!.id,
    };
    const both = await Promise.all([salmah.raw('sendDocument', input), salmah.raw('sendDocument', input)]);
    expect(both.map((each) => each.status).sort()).toEqual([200, 404]);
    expect((await salmah.get<{ rows: unknown[] }>('/api/message-drafts')).rows).toEqual([]);
    expect((await salmah.get<{ rows: unknown[] }>('/api/messages?q=x@y.example')).rows).toHaveLength(1);
  });

  it('another company reads none of it', async () => {
    const { rows } = await salmah.get<{ rows: { id: number }[] }>('/api/messages');
    await salmah.post('/api/company', { companyId: world.masters.sisterId });
    expect((await salmah.get<{ rows: unknown[] }>('/api/messages')).rows).toEqual([]);
    expect((await file(`/api/messages/${rows[0]!.id}/attachment`)).status).toBe(404);
    await salmah.post('/api/company', { companyId: world.masters.companyId });
  });
});
