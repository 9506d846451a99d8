import { reminderWords, type ReminderKind } from '@core/agreements';
import type { TodayRow } from '@api/today';
import { pathOf } from '../kit/documents';
import { counted, day, money } from '../kit/formats';

export interface TodayShown {
  row: TodayRow;
  /** After the document's number. */
  sentence: string;
  detail: string;
  step: string;
  link: string;
  chip: string;
}

/** A fired reminder in words, from its kind and bound: `days 30`. */
function reminderText(note: string): string {
  const [kind = 'days', at = ''] = note.split(' ');
  return reminderWords({ kind: kind as ReminderKind, at });
}

/** A row of Today as a sentence with its next step. */
export function sentenceOfRow(row: TodayRow, workDate: string): TodayShown {
  const on = row.day === null ? '' : day(row.day, workDate);
  const amount = row.amount === null ? '' : `${row.currency} ${money(row.amount, row.currency)}`;
  const path = pathOf(row.document);
  const lines = counted(row.count, 'line');
  const late = row.day !== null && row.day < workDate;
  switch (row.kind) {
    case 'agreement-draft':
      return shown(
        `with ${row.party} is a draft; nothing can be released from it`,
        `begins ${on} · ${amount}`,
        'Put it in force',
        path,
        'Agreements',
      );
    case 'agreement-past': {
      const left = row.amount !== '0';
      return shown(
        `with ${row.party} ended ${on} ${left ? 'with a remainder' : 'and is not wrapped up'}`,
        left ? amount : '',
        'Wrap up',
        `${path}?do=wrap-up`,
        'Agreements',
      );
    }
    case 'agreement-reminder':
      return shown(
        `with ${row.party}: ${reminderText(row.note)}`,
        amount ? `${amount} left` : '',
        'See to it',
        path,
        'Agreements',
      );
    case 'call-due':
      return shown(
        `with ${row.party}: ${counted(row.count, 'planned call')} to release`,
        `the first for ${on}`,
        'Release as planned',
        `${path}?do=calls`,
        'Agreements',
      );
    case 'shortfall-draft':
      return shown(
        `with ${row.party} has a shortfall to charge`,
        amount,
        'Charge it',
        `${path}?do=shortfall`,
        'To invoice',
      );
    case 'rebate-owed':
      return shown(
        `with ${row.party} ended ${on}; its rebate is owed`,
        amount,
        'Settle it',
        `${path}?do=settle`,
        'Agreements',
      );
    case 'rebate-to-claim':
      return shown(
        `with ${row.party}: more of its rebate was settled than is owed since goods came back`,
        amount,
        'Claim it back',
        `${path}?do=claim`,
        'Agreements',
      );
    case 'order-draft':
      return shown(
        `for ${row.party} is not confirmed`,
        `${amount}${on ? ` · goes out ${on}` : ''}`,
        'Confirm it',
        path,
        'Orders',
      );
    case 'offer':
      return shown(
        `of ${row.party} waits in the tray${row.count > 1 ? `, and ${row.count - 1} more of theirs` : ''}`,
        on ? `came ${on}` : '',
        row.count > 1 ? `Take ${row.count} of them` : 'Take it',
        '/tray',
        'Tray',
      );
    case 'offer-returned':
      return shown(`came back from ${row.party}`, row.note, 'Change it', path, 'Tray');
    case 'offer-to-send':
      return shown(
        `goes to ${row.party}${row.count > 1 ? `, and ${row.count - 1} more` : ''}: not sent yet`,
        '',
        row.count > 1 ? `Send ${row.count} of them` : 'Send it',
        '/tray?show=to-send',
        'Tray',
      );
    case 'standing-needs':
      return shown(
        `for ${row.party}: ${on} waits for you${row.count > 1 ? `, and ${row.count - 1} more` : ''}`,
        row.note,
        'See to it',
        path,
        'Standing orders',
      );
    case 'promotion-low':
      return shown(
        `${row.party}: ${row.amount === '0' ? 'nothing' : `${row.currency} ${money(row.amount ?? '0', row.currency)}`} is left to give until ${on}`,
        '',
        'See to it',
        path,
        'Promotions',
      );
    case 'card-hanging':
      return shown(
        row.note === 'back'
          ? `for ${row.party}: money goes back to a card, and the terminal has not answered`
          : `for ${row.party}: a card payment is on no slip yet`,
        '',
        row.note === 'back' ? 'Ask it again' : 'Finish it at the till',
        row.note === 'back' ? '/till' : `/till/${row.document.id}`,
        'Counter',
      );
    case 'message-draft':
      return shown(
        `for ${row.party}: a message waits to be sent`,
        row.note,
        'Read and send it',
        '/mail/drafts',
        'Orders',
      );
    case 'line-without-supply':
      return shown(
        `for ${row.party}: ${lines} without supply`,
        `first goes out ${on}`,
        row.count === 1 ? 'Place the purchase' : `Place ${row.count} lines`,
        `/bench?order=${row.document.id}`,
        'No supply',
      );
    case 'plan-to-place':
      return shown(
        `for ${row.note} is planned with ${row.party}`,
        `${late ? 'was to be' : 'to be'} ordered by ${on}`,
        'Place the purchase',
        `${path}?do=place`,
        'No supply',
      );
    case 'plan-to-begin':
      return shown(
        `for ${row.note}${row.party ? `, ${row.party},` : ''} is planned to be ${row.document.kind === 'AS' ? 'assembled' : 'made'}`,
        `${late ? 'was to begin' : 'begins'} ${on}`,
        late ? 'Lay it again' : 'See it',
        late ? `${path}?do=lay` : path,
        'Workshop',
      );
    case 'work-late': {
      const [, operation = '', order = '', ships = ''] = row.note.split('|');
      return shown(
        `${row.party ? `for ${row.party}` : 'for our stock'}: ${operation} should be over since ${on}`,
        order ? `${order} ships ${day(ships, workDate)}` : '',
        'Lay it again',
        `${path}?do=lay`,
        'Workshop',
      );
    }
    case 'line-moved':
      return shown(
        `for ${row.party}: ${row.count === 1 ? 'a line ships' : `${counted(row.count, 'line')} ship`} ${on}${row.note && ` instead of ${day(row.note, workDate)}`}`,
        'what is made for it is late',
        'Tell them',
        path,
        'Moved',
      );
    case 'component-short': {
      const begin = late ? 'should have begun' : row.count === 1 ? 'begins' : 'begin';
      return shown(
        `${row.count === 1 ? '' : `and ${counted(row.count - 1, 'other')} `}${begin} ${on}, ${row.note} short${row.party ? ` for ${row.party}` : ''}`,
        row.party ? '' : 'for our stock',
        'See what it lacks',
        path,
        'Workshop',
      );
    }
    case 'purchase-due':
      return shown(
        `from ${row.party} ${late ? `was due ${on}` : 'is due today'}`,
        `${lines} open`,
        'Receive',
        `${path}?do=receive`,
        'To receive',
      );
    case 'not-arrived':
      return shown(
        `${late ? 'was' : 'is'} to bring ${row.note} to ${row.party} ${late ? on : 'today'}`,
        '',
        'See it',
        `/carriages?q=${row.document.number}`,
        'Under way',
      );
    case 'goods-here':
      return shown(
        `for ${row.party}: ${row.count === 1 ? 'its goods are' : `goods of ${row.count} lines are`} here and wait to go out`,
        `first goes out ${on}`,
        'Ship',
        `${path}?do=ship`,
        'To ship',
      );
    case 'to-go-out':
      return shown(
        `for ${row.party} ${late ? `was to go out ${on}` : 'goes out today'}`,
        lines,
        'Ship',
        `${path}?do=ship`,
        'To ship',
      );
    case 'line-short': {
      const [what = '', ends = '', by = ''] = row.note.split('|');
      const others = row.count === 1 ? '' : `, and ${counted(row.count - 1, 'other line')}`;
      return shown(
        `for ${row.party}: ${what} short for ${on}${others}`,
        by && ends ? `${by} brings it ${day(ends, workDate)}` : 'nothing brings it',
        'End it',
        path,
        'Short',
      );
    }
    case 'purchase-coming':
      return shown(`from ${row.party} is due ${on}`, `${lines} open`, 'Look at it', path, 'To receive');
    case 'not-invoiced':
      return shown(
        `for ${row.party} went out and is not invoiced`,
        amount,
        'Invoice it',
        `${path}?do=invoice`,
        'To invoice',
      );
    case 'vendor-not-invoiced':
      return shown(
        `was received; ${row.party} has not invoiced it`,
        amount,
        'Enter their invoice',
        `${path}?do=vendor-invoice`,
        'To invoice',
      );
    case 'invoice-owed':
      return shown(
        `is owed by ${row.party}`,
        `${amount} · ${late ? 'was ' : ''}due ${on}`,
        late ? 'They paid' : 'See it',
        late ? `${path}?do=pay` : path,
        'Owed',
      );
  }
  function shown(sentence: string, detail: string, step: string, link: string, chip: string): TodayShown {
    return { row, sentence, detail, step, link, chip };
  }
}
