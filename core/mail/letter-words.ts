import type { Language } from '../kernel';

/** How firm a reminder is, by how long the oldest is past due. */
export type ReminderLevel = 'friendly' | 'firm' | 'last';

/** What our letters to a party say, in one language. */
export interface LetterWords {
  dear: (party: string) => string;
  regards: (from: { person: string; company: string }) => string;
  attached: (title: string, number: string) => string;
  yours: (number: string, reference: string) => string;
  more: (count: number) => string;
  reminder: {
    subject: Record<ReminderLevel, string>;
    asks: Record<ReminderLevel, string>;
    pastDue: (amount: string) => string;
    missing: (day: string) => string;
    line: (of: string, amount: string, day: string, late: number) => string;
    together: (amount: string) => string;
  };
  moved: {
    subject: (numbers: readonly string[], lines: number) => string;
    told: (lines: number) => string;
    line: (of: string, lineNo: number, what: string, is: string, was: string, days: number, later: boolean) => string;
    what: (quantity: string, item: string) => string;
    sorry: string;
  };
}

const days = (count: number) => `${count} ${count === 1 ? 'day' : 'days'}`;

const ENGLISH: LetterWords = {
  dear: (party) => `Dear ${party},`,
  regards: ({ person, company }) => `Kind regards,\n${person}, ${company}`,
  attached: (title, number) => `attached is our ${title.toLowerCase()} ${number}.`,
  yours: (number, reference) => `${number} (your ${reference})`,
  more: (count) => `and ${count} more`,
  reminder: {
    subject: { friendly: 'Reminder', firm: 'Second reminder', last: 'Last reminder' },
    asks: {
      friendly: 'Perhaps it was overlooked: please pay it in the next days. If you have paid meanwhile, our thanks.',
      firm: 'Please pay it within ten days, or tell us what stands against it.',
      last: 'Please pay it within seven days. After that we shall have to hold what you have on order with us.',
    },
    pastDue: (amount) => `${amount} past due`,
    missing: (day) => `by ${day} we have not had your payment of:`,
    line: (of, amount, day, late) => `${of}: ${amount}, due ${day}, ${days(late)} ago`,
    together: (amount) => `Together ${amount}.`,
  },
  moved: {
    subject: (numbers, lines) => `New ${lines === 1 ? 'day' : 'days'} for ${listed(numbers, 'and', 'more orders')}`,
    told: (lines) => `we have to tell you of ${lines === 1 ? 'a new day' : 'new days'} for what you ordered:`,
    line: (of, lineNo, what, is, was, by, later) =>
      `${of}, line ${lineNo}: ${what}, going out ${is}, not ${was} (${days(by)} ${later ? 'later' : 'sooner'})`,
    what: (quantity, item) => `${quantity} of ${item}`,
    sorry: 'We are sorry for the delay. Should this not do for you, please tell us.',
  },
};

const MALAY: LetterWords = {
  dear: (party) => `Kepada ${party},`,
  regards: ({ person, company }) => `Sekian, terima kasih,\n${person}, ${company}`,
  attached: (title, number) => `bersama ini ${title.toLowerCase()} kami ${number}.`,
  yours: (number, reference) => `${number} (rujukan anda ${reference})`,
  more: (count) => `dan ${count} lagi`,
  reminder: {
    subject: { friendly: 'Peringatan', firm: 'Peringatan kedua', last: 'Peringatan terakhir' },
    asks: {
      friendly: 'Mungkin terlepas pandang: sila bayar dalam beberapa hari ini. Jika sudah dibayar, terima kasih.',
      firm: 'Sila bayar dalam masa sepuluh hari, atau beritahu kami jika ada bantahan.',
      last: 'Sila bayar dalam masa tujuh hari. Selepas itu kami terpaksa menahan pesanan anda dengan kami.',
    },
    pastDue: (amount) => `${amount} lewat dibayar`,
    missing: (day) => `sehingga ${day} kami belum menerima bayaran anda bagi:`,
    line: (of, amount, day, late) => `${of}: ${amount}, perlu dibayar ${day}, lewat ${late} hari`,
    together: (amount) => `Jumlah ${amount}.`,
  },
  moved: {
    subject: (numbers) => `Tarikh baharu bagi ${listed(numbers, 'dan', 'pesanan lagi')}`,
    told: () => 'kami ingin memaklumkan tarikh baharu bagi pesanan anda:',
    line: (of, lineNo, what, is, was, by, later) =>
      `${of}, baris ${lineNo}: ${what}, dihantar ${is}, bukan ${was} (${by} hari ${later ? 'lewat' : 'awal'})`,
    what: (quantity, item) => `${quantity} ${item}`,
    sorry: 'Kami memohon maaf atas kelewatan ini. Jika tidak sesuai, sila beritahu kami.',
  },
};

export const LETTER_WORDS: Readonly<Record<Language, LetterWords>> = { en: ENGLISH, ms: MALAY };

function listed(numbers: readonly string[], and: string, more: string): string {
  if (numbers.length > 4) return `${numbers.slice(0, 3).join(', ')} ${and} ${numbers.length - 3} ${more}`;
  return numbers.length > 1 ? `${numbers.slice(0, -1).join(', ')} ${and} ${numbers.at(-1)}` : (numbers[0] ?? '');
}
