import { pino } from 'pino';
import { STARTER_ACCOUNTS, STARTER_TAXES, STARTER_TERMS } from '@core/setup';
import type { Clock } from '../clock';
import { readConfig } from '../config';
import { migrate } from '../db/migrate';
import { serve, type Serving } from '../serve';
import { newFirstWord } from '../setup';
import { verify } from '../verify';
import { copyOfTemplate } from './copy';
import { Visitor } from './world';

/** A company as its first visitor could write it, with all it begins with. */
export const letterOf = (change: Record<string, unknown> = {}) => ({
  company: {
    name: 'Sungai Jernih Pools',
    code: 'SJP',
    currency: 'MYR',
    timeZone: 'Asia/Kuala_Lumpur',
    street: 'Jalan Tasik 4',
    postcode: '31400',
    town: 'Ipoh',
    country: 'my',
    registration: '',
    taxNumber: '',
    phone: '',
    email: '',
    bank: '',
    bankAccount: '',
    ...change,
  },
  week: '1111110',
  accounts: STARTER_ACCOUNTS,
  taxes: STARTER_TAXES,
  terms: STARTER_TERMS,
  locations: [
    { code: 'MAIN', name: 'Main store' },
    { code: 'YARD', name: 'Yard' },
  ],
});

export const ZAINAB = { name: 'Zainab', signIn: 'zainab', password: 'river-otter-lamp' };

/** An installation nobody has begun in, and a server on it. */
export class EmptyWorld {
  private constructor(
    readonly serving: Serving,
    private readonly drop: () => Promise<void>,
  ) {}

  static async make(clock?: Clock): Promise<EmptyWorld> {
    const { url, drop } = await copyOfTemplate('empty', async (from) => {
      await migrate(from, 'server/db/sql');
      return '';
    });
    const config = readConfig({
      DATABASE_URL: url,
      PORT: '0',
      LOG_LEVEL: 'silent',
      JOBS: 'no',
      CHECK_ANSWERS: 'yes',
      WAITING: '10000',
      AT_ONCE_EACH: '10000',
    });
    return new EmptyWorld(await serve(config, pino({ level: 'silent' }), clock), drop);
  }

  /** The word the next start would print. */
  word = () => newFirstWord(this.serving.database);

  nobody = () => new Visitor(this.serving.address);

  /** The first visitor, with a company begun. */
  async begun(): Promise<Visitor> {
    const visitor = this.nobody();
    const word = await this.word();
    const { status, body } = await visitor.post('/api/first-visit', { ...letterOf(), word, person: ZAINAB });
    if (status !== 200) throw new Error(JSON.stringify(body));
    visitor.token = (body as { token: string }).token;
    return visitor;
  }

  verify = () => verify(this.serving.database);

  async end(): Promise<void> {
    await this.serving.stop();
    await this.drop();
  }
}
