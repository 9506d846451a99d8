import { agreed, releaseOf, World } from '../testing/world';

describe('events', () => {
  it('tell the screens of a company what was committed, and not those of another', async () => {
    const world = await World.make();
    const salmah = await world.visitor();
    const sister = await world.visitor('rashid');
    await sister.post('/api/company', { companyId: world.masters.sisterId });
    const ends = new AbortController();
    const heard: Record<'here' | 'sister', string> = { here: '', sister: '' };
    const listen = async (who: 'here' | 'sister', cookie: string) => {
      const response = await fetch(`${world.serving.address}/api/events`, { headers: { cookie }, signal: ends.signal });
      expect(response.headers.get('content-type')).toContain('text/event-stream');
      void (async () => {
        for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>)
          heard[who] += Buffer.from(chunk).toString();
      })().catch(() => undefined);
    };
    await listen('here', salmah.cookie);
    await listen('sister', sister.cookie);
    while (!heard.here.includes('event: ready')) await new Promise((resolve) => setTimeout(resolve, 10));
    const agreement = await agreed(world, salmah);
    const [order] = await salmah.does('releaseAgreement', releaseOf(world, agreement, '1'));
    while (!heard.here.includes(order!.number)) await new Promise((resolve) => setTimeout(resolve, 10));
    expect(heard.here).toContain('"act":"releaseAgreement"');
    expect(heard.sister).not.toContain(order!.number);
    ends.abort();
    await world.end();
  });
});
