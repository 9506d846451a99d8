import * as z from 'zod';
import { assertMatchesSchema } from './matches-schema';

describe('an answer held against its schema', () => {
  const schema = z.object({ number: z.string(), lines: z.array(z.object({ quantity: z.string() })) });
  const held = (answer: unknown) => () => assertMatchesSchema(schema, JSON.stringify(answer));

  it('passes as it is said', () => {
    expect(held({ number: 'SO-0001', lines: [{ quantity: '3' }] })).not.toThrow();
    // What JSON leaves out was never said.
    expect(held({ number: 'SO-0001', lines: [], note: undefined })).not.toThrow();
  });

  it('fails where it says less, something else or more, however deep', () => {
    expect(held({ number: 'SO-0001' })).toThrow();
    expect(held({ number: 1, lines: [] })).toThrow();
    expect(held({ number: 'SO-0001', lines: [], password: 'x' })).toThrow(/says more/);
    expect(held({ number: 'SO-0001', lines: [{ quantity: '3', companyId: 1 }] })).toThrow(/says more/);
  });
});
