import type { Logger } from 'pino';
import type { PassThrough } from 'node:stream';
import type { Right } from '@api/access';
import type { Clock } from '../clock';
import type { Config } from '../config';
import type { Database, Fit } from '../db';
import type { Metrics } from '../metrics';
import type { Findable } from './findable';

/** Who is signed in, and where they work. */
export interface SignedIn {
  personId: number;
  personName: string;
  companyId: number;
  role: string;
  rights: Right[];
  workDate: string;
  demo: boolean;
  csrf: string;
}

/** Sessions by their cookie's token, kept for a moment. */
export interface Sessions {
  /** `used` where its person did something, and not a screen by itself: it goes on from now. */
  of(token: string, used?: boolean): Promise<SignedIn | null>;
  /** What is kept is read anew: somebody signed out, moved the work date or went to another company. */
  forget(): void;
}

/** Sign-ins, counted by name and address, or by the device where the person is known on it. */
export interface Attempts {
  /** Counts a try, before its password is looked at: minutes to wait, or 0 where it may be made; whether a wait begins. */
  waitFor(name: string, address: string, device: string | null): Promise<{ minutes: number; begins: boolean }>;
  /** Gives back what a try that fitted was counted for. */
  succeeded(name: string, address: string, device: string | null): Promise<void>;
}

/** What a stream of events was opened by. */
export interface Listening {
  companyId: number;
  personId: number;
  /** What traces name the session by. */
  mark: string;
  /** The session, by any name that is its own. */
  session: string;
  /** Whether it still is one, in that company. */
  holds(): Promise<boolean>;
}

/** Tells listening screens what was committed, by this server process or another. */
export interface Events {
  /** A stream of server-sent events of the session's company; it ends with what it was opened by. */
  listen(by: Listening): PassThrough;
  /** Ends the streams of that session where it holds no longer: looked at now instead of at the next round. */
  recheck(session: string): Promise<void>;
  /** Look now instead of at the next beat: something was just committed here. */
  poke(): void;
  close(): void;
}

/** What is due by the clock. */
export interface Jobs {
  /** Looks now instead of at the next minute: the work date was moved, say. */
  poke(): void;
  stop(): void;
}

/** Long computation beside the server. */
export interface Runs {
  /** Begins what waits, and what another server left lying. */
  poke(): void;
  stop(): Promise<void>;
}

/** What a server gives its rooms to work with. */
export interface Parts {
  config: Config;
  database: Database;
  clock: Clock;
  log: Logger;
  metrics: Metrics;
  /** Where people reach it: what links in mails and calendars begin with, never what a request says. */
  publicUrl(): string;
  /** Whether the database is the one this program was written for. */
  fit(): Promise<Fit>;
  attempts: Attempts;
  sessions: Sessions;
  events: Events;
  jobs: Jobs;
  runs: Runs;
  /** What find looks for, of all rooms. */
  findable: readonly Findable[];
}
