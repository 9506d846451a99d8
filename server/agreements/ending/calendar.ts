import ical, { ICalCalendarMethod } from 'ical-generator';
import type { FileAnswer } from '../../room';
import { feedOf } from './reminders';

/** A person's feed of reminders: whoever has its private address reads it, without a session. (RFC 5545) A9 */
export const calendarFile: FileAnswer = {
  path: '/calendar/:token.ics',
  open: true,
  what: 'This calendar',
  async read({ ctx, parts }) {
    const token = String((ctx['params'] as { token: string }).token);
    const feed = /^[\w-]{20,64}$/.test(token) ? await feedOf(parts.database, token) : null;
    if (!feed) return null;
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
        url: `${parts.publicUrl()}${entry.path}`,
      });
    }
    const content = Buffer.from(made.toString());
    return { name: 'agreements.ics', type: 'text/calendar; charset=utf-8', content, how: 'inline' };
  },
};
