import type Router from '@koa/router';
import ical, { ICalCalendarMethod } from 'ical-generator';
import type { Context } from 'koa';
import type * as z from 'zod';
import { refuse } from '@core/refusals';
import { listAgreements } from '@api/agreements';
import { FulfilmentQuery } from '@api/insight';
import { DocumentParams, IdParam } from '@api/kit';
import { feedOf } from '../agreements';
import type { SignedIn } from '../access';
import { agreementTable, csvOf, purchaseUbl, xlsxOf, type Table } from '../exchange';
import { fulfilmentTable } from '../insight';
import { fileOf, messageFile } from '../mail';
import type { Parts } from './parts';
import { Refusals } from './problem';
import { requireSession } from './session';

const TYPES = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
} as const;

/** Everything that goes out as a file: lists as CSV and XLSX, documents as PDF, reminders as iCalendar. */
export function bindFiles(router: Router, parts: Parts): void {
  for (const format of ['csv', 'xlsx'] as const) {
    bindTable(router, parts, 'agreements', format, (who, query) =>
      agreementTable(parts.database, who.companyId, checked(listAgreements.query, query), who.workDate),
    );
    bindTable(router, parts, 'fulfilment', format, (who, query) =>
      fulfilmentTable(
        parts.database,
        parts.agreementSums,
        who.companyId,
        checked(FulfilmentQuery, query),
        who.workDate,
      ),
    );
  }
  router.get('/documents/:kind/:id/pdf', async (ctx) => {
    const who = await requireSession(ctx, parts);
    const document = checked(DocumentParams, ctx.params);
    const file = await fileOf(parts.database, who.companyId, document);
    if (!file) throw new Refusals(404, [refuse('not-found', '', { what: 'A print of this document' })]);
    answerFile(ctx, file.name, 'application/pdf', file.content, 'inline');
  });
  router.get('/purchases/:id/ubl', async (ctx) => {
    const who = await requireSession(ctx, parts);
    const { name, content } = await purchaseUbl(parts.database, who.companyId, checked(IdParam, ctx.params).id);
    answerFile(ctx, name, 'application/xml', content, 'attachment');
  });
  router.get('/messages/:id/attachment', async (ctx) => {
    const who = await requireSession(ctx, parts);
    const { name, content } = await messageFile(parts.database, who.companyId, checked(IdParam, ctx.params).id);
    answerFile(ctx, name, 'application/pdf', content, 'inline');
  });
  router.get('/calendar/:token.ics', (ctx) => calendar(ctx, parts, String(ctx.params['token'])));
}

function bindTable(
  router: Router,
  parts: Parts,
  name: string,
  format: 'csv' | 'xlsx',
  read: (who: SignedIn, query: unknown) => Promise<Table>,
): void {
  router.get(`/${name}.${format}`, async (ctx) => {
    const who = await requireSession(ctx, parts);
    const table = await read(who, { ...ctx.query });
    const content = format === 'csv' ? csvOf(table) : await xlsxOf(name, table);
    answerFile(ctx, `${name} ${who.workDate}.${format}`, TYPES[format], content, 'attachment');
  });
}

function checked<S extends z.ZodType>(schema: S, value: unknown): z.infer<S> {
  const read = schema.safeParse(value);
  if (read.success) return read.data;
  throw new Refusals(400, [refuse('malformed', '', { what: 'The address' })]);
}

function answerFile(ctx: Context, name: string, type: string, content: Buffer, how: 'inline' | 'attachment'): void {
  ctx.set('Cache-Control', 'no-store');
  ctx.set('Content-Disposition', `${how}; filename="${name.replaceAll('"', '')}"`);
  ctx.type = type;
  ctx.body = content;
}

/** A person's feed: whoever has its private address reads it, without a session. (RFC 5545) A9 */
async function calendar(ctx: Context, parts: Parts, token: string): Promise<void> {
  const feed = /^[\w-]{20,64}$/.test(token) ? await feedOf(parts.database, token) : null;
  if (!feed) throw new Refusals(404, [refuse('not-found', '', { what: 'This calendar' })]);
  const { origin } = ctx.URL;
  const made = ical({
    name: `Agreements, ${feed.company}`,
    method: ICalCalendarMethod.PUBLISH,
    prodId: '//kampong//agreements//EN',
  });
  for (const entry of feed.entries) {
    made.createEvent({
      id: `${entry.id}@kampong`,
      start: `${entry.day}T00:00:00`,
      allDay: true,
      stamp: parts.clock.now(),
      summary: entry.title,
      description: entry.text,
      url: `${origin}${entry.path}`,
    });
  }
  answerFile(ctx, 'agreements.ics', 'text/calendar; charset=utf-8', Buffer.from(made.toString()), 'inline');
}
