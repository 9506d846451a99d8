import { dayText, decimalText, inUnits, isDay, monthText } from '@core/kernel';

const n = (text: string) => decimalText(text);
/** A day with its year, as a sentence says it. */
const d = (day: string) => (isDay(day) ? dayText(day, '') : day);

/** A month as people say it: `2027-03` is `March 2027`. */
const month = (text: string) => (isDay(`${text}-01`) ? monthText(text) : text);

/** Where a piece with a number of its own is, as a sentence goes on. // P6 */
const whereIs = ({ is, at, order }: { is: string; at: string; order: string }) =>
  ({
    ours: `is at ${at}${order ? `, for ${order}` : ''}`,
    customer: `went out${order ? ` with ${order}` : ''}`,
    used: 'is used in production',
    out: 'is not in our stock',
  })[is] ?? 'is elsewhere';

/** A state as people say it: `in-force` is `in force`. */
const state = (text: string) => text.replace('-', ' ');

/**
 * Every refusal there is: its code, the facts it carries, and the one sentence that says
 * what, why and the way out. // G3
 * Facts are plain text so that they travel as JSON; the sentence is made where it is shown.
 */
export const sentences = {
  // any field
  required: (f: { what: string }) => `${f.what} is needed.`,
  'not-a-number': (f: { what: string }) => `${f.what} is not a number Kampong can keep; write it like 1250.5.`,
  'not-hours': (f: { what: string }) =>
    `${f.what} are not hours; write them like 08:00-16:00, or Mon-Fri 8-16; Sat 8-12.`,
  'not-a-day': (f: { what: string }) => `${f.what} is not a date; write it like 11/3, +5 or fri.`,
  'bad-days': (f: { typed: string }) =>
    `These are no days: “${f.typed}”; write them like 1/3..5/3, ..-1 (up to yesterday), +5.. or fri.`,
  'not-above-zero': (f: { what: string }) => `${f.what} must be above zero.`,
  'below-zero': (f: { what: string }) => `${f.what} cannot be below zero.`,
  'several-named': (f: { what: string; name: string }) =>
    `${f.what} is not clear: several go by ${f.name}; give the number instead.`,
  'either-or': (f: { one: string; other: string }) => `This holds for ${f.one} or for ${f.other}, not both; clear one.`,
  'not-an-address': () => 'This is not one mail address; write it like stores@teratai.example.',
  'too-long': (f: { what: string; most: string }) => `${f.what} is longer than ${f.most} characters; shorten it.`,
  'not-an-image': () => 'This is neither a PNG nor a JPEG picture; choose one of those.',
  'image-too-large': (f: { most: string }) => `A logo has at most ${f.most} kB; make it smaller first.`,
  'waits-for-second': (f: { what: string }) => `${f.what} waits for a second person; do that by itself first.`,
  'supply-unasked': (f: { purchase: string; order: string }) =>
    `${f.purchase} was bought for ${f.order}: say whether it is cancelled too, stays for nobody, or comes to our stock.`,
  'supply-for-others': (f: { purchase: string; orders: string }) =>
    `${f.purchase} is for ${f.orders} too; let what is for this order hang loose instead.`,
  'supply-not-placed': (f: { purchase: string; state: string }) =>
    `${f.purchase} is ${f.state}; let it be parted from this order only.`,
  // a company of one's own
  'opened-already': (f: { item: string; place: string }) =>
    `Stock of ${f.item} at ${f.place} was opened or moved already; put it right on its page instead.`,
  'opened-otherwise': (f: { number: string; document: string; total: string; currency: string }) =>
    `${f.number} was opened with ${f.currency} ${f.total} as ${f.document}; take that back on its page, and open it under another number.`,
  'number-used': (f: { number: string; document: string; total: string; currency: string }) =>
    `${f.number} is ${f.document} over ${f.currency} ${f.total} already; nothing is opened twice.`,
  'number-of-series': (f: { number: string }) =>
    `Kampong will number an invoice of its own ${f.number}; write it with something before it, as OLD-${f.number}.`,
  'owed-not-above-zero': () => 'What is owed must be above zero; of an invoice a credit lessens, write what is left.',
  'line-not-of-agreement': (f: { agreement: string; item: string }) =>
    f.item === ''
      ? `${f.agreement} has several lines; say of which item or group.`
      : `${f.agreement} has no line of its own for ${f.item}; name an item or group that it has.`,
  'not-a-prefix': () =>
    'What stands before a number is of letters, digits, hyphens, strokes and dots, begins with a letter or digit, and does not end with a digit: like INV- or 27/A-.',
  'prefix-taken': (f: { prefix: string; document: string }) =>
    `Numbers of a ${f.document} begin with ${f.prefix} already; write another.`,
  'number-opened': (f: { number: string }) =>
    `${f.number} was opened as an invoice from before, and these numbers would come to it; begin after it, or write something else before them.`,
  'numbers-begun': (f: { next: string }) =>
    `The next is ${f.next}: numbers were given already, and have no gaps. What stands before them can be changed.`,
  'above-the-credit': (f: { credit: string; asked: string; left: string }) =>
    `Of ${f.credit} ${f.left} is left, ${f.asked} is asked; set off no more than that.`,
  'due-before-invoiced': () => 'It cannot be due before it was invoiced.',
  'item-not-kept': (f: { item: string }) => `${f.item} is not kept by us; say so of the item first.`,
  'right-not-own': (f: { rights: string }) =>
    `Nobody gives rights they do not have themselves: ${f.rights}; ask somebody who has them.`,
  'days-between': (f: { what: string; least: string; most: string }) =>
    `${f.what} holds for ${f.least} to ${f.most} days; choose a number between.`,
  'not-oneself': () => 'Nobody changes their own role or puts themselves out of use; ask another who keeps people.',
  'last-keeper': () => 'Nobody would be left who keeps people; let somebody else do so first.',
  'invitation-gone': () => 'This link is good no more: it was used, withdrawn, or its days are over; ask for another.',
  'works-here': (f: { company: string }) => `You work at ${f.company} already; sign in as you do.`,
  'code-needed': () => 'Now the six digits your telephone shows for Kampong.',
  'code-wrong': () => 'These are not the digits of this moment; take those the telephone shows now, each once.',
  'password-wrong': () => 'This is not your password of now; type that one first.',
  'token-no-more': () => 'This token is good no more; ask whoever keeps people for another.',
  'no-such-row': (f: { list: string; row: string }) =>
    `There is no ${f.row} in ${f.list}, and none is made here; make it where it begins, or correct the line.`,
  'no-list-for': () =>
    'These headings are of no list here; choose the list, and head its columns as it does (a list can be taken along to see how).',
  'column-missing': (f: { list: string; columns: string }) =>
    `${f.list} need the column ${f.columns}; add it to the file.`,
  'run-not-there': (f: { state: string }) => `This file is ${f.state} already.`,
  'run-has-bad': (f: { bad: string }) =>
    `${f.bad} lines cannot be taken; take the good ones, or correct the file and bring it in again.`,
  'nothing-to-take': () => 'Nothing of it is new or another; all of it is here as it is.',
  'party-out-of-use': (f: { party: string }) =>
    `${f.party} is out of use and is chosen for nothing new; whoever keeps the lists can take them into use again.`,
  'only-new': (f: { what: string }) =>
    `${f.what} stays as it was made, since documents were written with it; make another, and put this one out of use.`,
  'looks-like': (f: { by: string; number: string; name: string }) =>
    `${f.number} ${f.name} has the same ${f.by}; look whether it is the same one.`,
  'stock-not-kept': () => 'What is supplied from our stock is kept by us; choose yes, or another way of supply.',
  'first-word-wrong': () =>
    'This is not the word that was printed where Kampong was started last; look there, or start it anew for another.',
  'begun-already': () => 'Somebody made the first company meanwhile; ask them to let you in.',
  'code-taken': (f: { code: string }) => `There is a company ${f.code} already; give this one another short name.`,
  'no-work-day': () => 'No day of the week is a work day; choose at least one.',
  'said-twice': (f: { what: string; name: string }) =>
    `There is another ${f.what} ${f.name}; name one of them otherwise.`,
  'account-for': (f: { role: string }) => `Exactly one account must be for ${f.role}; say which.`,
  'not-a-sign-in': () => 'A name to sign in by has letters, digits, dots and dashes only.',
  'sign-in-taken': (f: { name: string }) => `Somebody else signs in as ${f.name}; choose another name.`,
  'password-short': (f: { least: string }) =>
    `A password has at least ${f.least} letters; a few words are easier to remember than signs.`,
  'password-common': () =>
    'This password is among the first that anybody would try; take one that has nothing to do with you.',
  // counter and till
  'not-a-gtin': (f: { what: string }) =>
    `${f.what} is no bar code of 8, 12, 13 or 14 digits with a check digit that fits; scan it again.`,
  'no-such-piece': (f: { piece: string; currency: string }) => `There is no note or coin of ${f.piece} ${f.currency}.`,
  'not-whole': (f: { what: string }) => `${f.what} must be a whole number, zero or more.`,
  'drawer-closed': (f: { till: string }) => `The drawer of ${f.till} is closed; open it with what is counted into it.`,
  'drawer-open': (f: { till: string; drawer: string }) => `${f.till} has ${f.drawer} open; close that first.`,
  'drawer-differs': (f: { difference: string; way: string }) =>
    `There is ${f.difference} ${f.way} in the drawer than should be; count again, or say why.`,
  'not-in-drawer': (f: { drawer: string; asked: string; cash: string }) =>
    `${f.asked} is more than the ${f.cash} in ${f.drawer || 'the drawer'}; put money in first.`,
  'cards-hanging': (f: { count: string }) =>
    `${f.count === '1' ? 'One card payment is' : `${f.count} card payments are`} on no slip yet; finish or give back first.`,
  'no-counter-customer': () =>
    'Nobody is named yet as who buys where nobody in particular does; say so under Lists, Tills, or choose a customer.',
  'not-at-till': (f: { order: string; state: string }) =>
    `${f.order} is ${f.state}; only drafts and confirmed orders are paid at the till.`,
  'other-at-till': (f: { order: string; first: string }) =>
    `${f.order} is of another customer than ${f.first}; pay them one after the other.`,
  'till-currency': (f: { customer: string; currency: string; till: string }) =>
    `${f.customer} buys in ${f.currency}, and the till takes ${f.till}; invoice them from the order.`,
  'not-kept-here': (f: { order: string }) =>
    `${f.order} is not an order kept at the counter any more; cancel it from its page.`,
  'order-moved-on': (f: { order: string }) => `${f.order} changed meanwhile; look at it again before it is paid.`,
  'till-reckoned': (f: { is: string; was: string }) =>
    `The invoice leaves ${f.is} to pay, and ${f.was} was reckoned: a price is that of the day it ships; ship it from the order and pay its invoice.`,
  'nothing-at-till': () => 'Nothing is on the slip; write something on it first.',
  'cash-short': (f: { due: string; given: string; short: string }) =>
    `${f.given} is ${f.short} less than the ${f.due} to pay; take more, or another way besides.`,
  'no-such-change': (f: { given: string; change: string }) =>
    `${f.change} cannot be paid in notes and coins; write what was given (${f.given}) again.`,
  'nothing-to-pay': () => 'Nothing is to pay any more; hand back what was given.',
  'not-paid': (f: { due: string }) => `${f.due} is to pay yet: by cash, card, voucher or on account.`,
  'card-above': (f: { card: string; due: string }) =>
    `The card was charged ${f.card}, and only ${f.due} is to pay; give it back and charge the card anew.`,
  'card-not-taken': () => 'This card payment was not taken, or is on a slip already; ask the terminal again.',
  'card-silent': (f: { amount: string }) =>
    `The terminal does not answer for ${f.amount}; ask it again: the same payment is never charged twice.`,
  'card-refused': (f: { amount: string }) => `The terminal refused ${f.amount}; try another card, or another way.`,
  'card-settled': (f: { state: string }) => `This card payment is ${f.state} already.`,
  'voucher-above': (f: { voucher: string; most: string }) =>
    `At most ${f.most} of ${f.voucher} can be used here; use that or less.`,
  'nobody-to-owe': () => 'Who buys is nobody in particular and cannot owe; choose a customer, or take the money.',
  'deposit-on-account': () => 'What is not taken along cannot be paid on account; let it be paid when it is fetched.',
  'slip-of-nothing': (f: { slip: string }) => `Nothing was handed over with ${f.slip}; pay the deposit back instead.`,
  'too-late-back': (f: { slip: string; last: string }) =>
    `Goods of ${f.slip} were taken back until ${d(f.last)}; who writes credit notes can still do so from the invoice.`,
  'not-to-take': (f: { item: string; here: string }) =>
    `Only ${n(f.here)} of ${f.item} can be taken along; leave the rest to be fetched, with its day.`,
  'deposit-used': (f: { deposit: string }) => `Nothing is left of ${f.deposit}.`,
  // rounds
  'round-named': (f: { name: string }) => `There is a round ${f.name} already; call it otherwise.`,
  'on-another-round': (f: { address: string; round: string }) =>
    `${f.address} is on ${f.round} already; take it off there first.`,
  'not-to-load': (f: { item: string; now: string }) => `Only ${n(f.now)} of ${f.item} can go now; load that or less.`,
  'loaded-elsewhere': (f: { item: string; run: string }) =>
    `This line of ${f.item} is loaded for ${f.run} already; unload it there first.`,
  'round-changed': () => 'Somebody changed this round meanwhile; look at it again.',
  'nothing-loaded': (f: { stop: string }) => `Nothing is loaded for ${f.stop}; load it first.`,
  // promotions
  'promotion-used-up': (f: { promotion: string; left: string }) =>
    `${f.promotion} has only ${f.left} left to give, too little for this line; it goes without.`,
  'promotion-spent': () =>
    'A promotion’s budget is used up by now; type the order again, or have the budget raised first.',
  'free-line-left': (f: { order: string; line: string }) =>
    `Line ${f.line} of ${f.order} is free goods that the order no longer earns; close that line short first.`,
  'budget-below-used': (f: { promotion: string; used: string; currency: string }) =>
    `Orders have ${f.currency} ${f.used} of ${f.promotion} already; give that budget or more, or stop it.`,
  'promotion-line-used': (f: { promotion: string; line: string }) =>
    `Orders have something of line ${f.line} of ${f.promotion}; it stays as it is. Add another line instead.`,
  'state-so-already': (f: { document: string; state: string }) => `${f.document} is ${f.state} already.`,
  // claims on vendors
  'support-line-used': (f: { support: string; line: string }) =>
    `Something is owed by line ${f.line} of ${f.support} already; it stays. Stop the support instead.`,
  'nothing-to-claim': (f: { vendor: string; day: string }) =>
    `${f.vendor} owes us nothing up to ${d(f.day)} that is on no claim yet.`,
  'claim-not-open': (f: { claim: string }) => `${f.claim} is settled or withdrawn; nothing more is done with it.`,
  'above-claim': (f: { claim: string; asked: string; left: string }) =>
    `${f.asked} is more than can be settled of ${f.claim}; give ${f.left} at most.`,
  'not-of-vendor': (f: { invoice: string }) => `${f.invoice} is of another vendor; choose one of theirs.`,
  'claim-currency': (f: { claim: string; currency: string }) =>
    `${f.claim} is in ${f.currency}, and this invoice is not; choose one that is, or have the claim paid.`,
  'nothing-owed': (f: { invoice: string }) => `Nothing is owed on ${f.invoice} any more; choose another.`,
  // commission
  'nothing-earned': (f: { person: string; day: string }) =>
    `${f.person} earned nothing up to ${d(f.day)} that is on no statement yet.`,
  'day-to-come': (f: { day: string; workDate: string }) =>
    `${d(f.day)} is to come; give ${d(f.workDate)} or a day before it.`,
  'statement-not-open': (f: { number: string; state: string }) =>
    `${f.number} is ${f.state}; nothing more is done with it.`,
  // standing orders
  'standing-ended': (f: { number: string }) => `${f.number} has ended; make a new one from it.`,
  'standing-not-active': (f: { number: string; state: string }) => `${f.number} is ${f.state}; let it go on first.`,
  'no-recurrence': (f: { rule: string }) =>
    `These dates cannot be read: “${f.rule}”; write them like every Tuesday, or the 15th until 30 June.`,
  'no-dates': () => 'This gives no date within a year; write it otherwise.',
  'days-ahead': (f: { most: string }) => `Orders are made 0 to ${f.most} days ahead; write a whole number of days.`,
  'not-a-date-of': (f: { number: string; day: string }) => `${d(f.day)} is no date of ${f.number}.`,
  'date-passed': (f: { day: string }) =>
    `${d(f.day)} passed before its order could be made; make it now to ship at once, or skip it.`,
  'made-already': (f: { number: string; day: string }) =>
    `The order of ${f.number} for ${d(f.day)} is made already; change or cancel that order.`,
  'date-skipped': (f: { number: string; day: string; why: string }) =>
    `${d(f.day)} of ${f.number} is skipped (${f.why}); let it be made first.`,
  'not-skipped': (f: { number: string; day: string }) => `${d(f.day)} of ${f.number} is not skipped.`,
  'pasted-nothing': () => 'Nothing was pasted; copy rows with customer, item, quantity and how often.',
  // sister companies
  'sister-unnamed': (f: { sister: string; side: string }) =>
    `Nobody said yet who ${f.sister} is among our ${f.side}; say so on the page of the pair.`,
  'sister-currency': (f: { number: string; sister: string; theirs: string; ours: string }) =>
    `${f.number} is in ${f.theirs}, and we buy of ${f.sister} in ${f.ours}; let one of both be kept otherwise.`,
  'party-of-sister': (f: { sister: string }) => `This is ${f.sister} already; choose another.`,
  'share-of-all': () => 'Less than the list by all of it leaves no price; take off less than 100 per cent.',
  'item-unpaired': (f: { item: string; sister: string }) =>
    `${f.item} of ${f.sister} is not paired with an item of ours; say which it is.`,
  'paired-already': (f: { theirs: string; ours: string; sister: string }) =>
    `${f.theirs} of ${f.sister} is our ${f.ours} already; part those first.`,
  'not-exchanged': (f: { root: string }) =>
    `This file holds “${f.root}”; companies send each other orders, order responses, despatch advices, invoices and application responses.`,
  'due-moved': (f: { number: string }) => `${f.number} changed meanwhile; look at it again before it is sent.`,
  'no-mail-address': (f: { sister: string }) =>
    `This cannot go to ${f.sister} by mail; save the file and bring it there.`,
  'file-of-nobody': (f: { code: string; name: string }) =>
    `Nobody here knows ${f.code}${f.name && f.name !== f.code ? ` (${f.name})` : ''} as a company elsewhere; add it under Sister companies first.`,
  'file-for-another': (f: { code: string; ours: string }) =>
    `This file is for ${f.code || 'nobody named'}, and we are ${f.ours}; bring it in there.`,
  'answer-to-nothing': (f: { number: string; sister: string }) =>
    `Nothing called ${f.number} was sent to ${f.sister}; ask them which document they mean.`,
  'file-line-twice': (f: { line: string }) =>
    `The file has two lines ${f.line}, or one without a number; have it written anew.`,
  'file-line-quantity': (f: { line: string; quantity: string }) =>
    `Line ${f.line} has no quantity above zero with five places at most (“${f.quantity}”); have it written anew.`,
  'file-line-price': (f: { line: string; price: string }) =>
    `Line ${f.line} has no price (“${f.price}”); have it written anew.`,
  'file-line-item': (f: { line: string }) => `Line ${f.line} names no item of who sent it; have it written anew.`,
  'file-total': (f: { total: string }) =>
    `The invoice comes to “${f.total}”, which is no amount; have it written anew.`,
  'file-line-serial': (f: { line: string }) =>
    `Line ${f.line} has a serial number that is empty, has spaces or is longer than 40; have it written anew.`,
  'not-a-currency': (f: { code: string }) =>
    `No currency is called “${f.code}”; write three capitals like MYR (ISO 4217).`,
  'company-code-taken': (f: { code: string; name: string }) => `${f.code} is ${f.name}; choose another code.`,
  'bad-company-code': () => 'A code is 2 to 8 capital letters and digits; write it like LGW.',
  'not-of-sister': (f: { line: string; item: string }) =>
    `Line ${f.line} (${f.item}) is not to be bought of a sister company any more; nothing is to be held for it.`,
  'held-already': (f: { line: string; item: string; sister: string; until: string }) =>
    `${f.sister} holds for line ${f.line} until ${f.until}; let that go first.`,
  'holds-nothing': (f: { line: string; item: string; sister: string }) =>
    `${f.sister} holds nothing for others; order it, or ask them to hold for some days.`,
  'unknown-to-sister': (f: { line: string; item: string; sister: string }) =>
    `${f.sister} does not know us among their customers; they have to say so on their page of the pair.`,
  'sister-cannot-say': (f: { line: string; item: string; sister: string }) =>
    `${f.sister} cannot say from when they could ship ${f.item}; ask them.`,
  'hold-over': (f: { order: string }) => `${f.order} holds nothing any more.`,
  'tax-unpaired': (f: { tax: string; rate: string; sister: string; line: string }) =>
    `Line ${f.line} is taxed ${f.tax} (${f.rate} %) by ${f.sister}, and our purchase otherwise; say which of ours it is on the page of the pair.`,
  'offer-taken': (f: { number: string; sister: string }) =>
    `${f.number} of ${f.sister} was taken already; look at what it became.`,
  'offer-gone': (f: { number: string; sister: string }) => `${f.sister} took ${f.number} back; nothing is to be done.`,
  'offer-returned': (f: { number: string; sister: string }) =>
    `${f.number} was returned; ${f.sister} has to change it first.`,
  'offer-moved': (f: { number: string; sister: string }) =>
    `${f.sister} changed ${f.number} meanwhile; look at it again.`,
  'offer-before-order': (f: { number: string; sister: string; line: string }) =>
    `Line ${f.line} of ${f.number} belongs to an order of ${f.sister} that is none of our purchases yet; take that first.`,
  'offer-several': (f: { number: string; purchases: string }) =>
    `${f.number} is for ${f.purchases}; enter its parts by hand on each of them.`,
  'offer-without-line': (f: { number: string; document: string }) =>
    `${f.number} has lines that ${f.document} has not; add them there by hand, then say it is known.`,
  'same-joined': (f: { document: string; sister: string }) =>
    `${f.document} is one with another document of ${f.sister} already.`,
  'same-not-open': (f: { document: string }) => `${f.document} is not open any more.`,
  'not-the-same': (f: { number: string; document: string }) =>
    `${f.number} and ${f.document} do not tell of the same items and quantities; take it as another one.`,
  'day-not-ahead': (f: { what: string }) => `${f.what} must be later than today.`,
  'nothing-past-due': () => 'Nothing of theirs is past due; leave them out.',
  'reminder-waits': (f: { customer: string }) =>
    `A message to ${f.customer} about an invoice waits to be sent; send or drop that first.`,
  'view-of-another': (f: { name: string }) => `Somebody else kept “${f.name}”; take another name.`,
  'too-many-views': (f: { most: string }) =>
    `A list has at most ${f.most} views for one person; drop one that is not used any more.`,
  'bad-text': () => 'This holds marks that cannot be kept; type it anew rather than pasting it.',
  malformed: (f: { what: string }) => `${f.what} could not be read; check it and send it again.`,
  'named-again': (f: { line: string }) =>
    `This is named on line ${f.line} already; name it once, with all that is asked of it.`,
  unknown: (f: { what: string }) => `${f.what} is not known in this company; choose one from the list.`,

  // months
  'month-runs': (f: { month: string; last: string }) =>
    `${month(f.month)} is not over yet; close it after ${d(f.last)}.`,
  'month-closed': (f: { month: string }) => `${month(f.month)} is closed already; read the months again.`,
  'month-open': (f: { month: string }) => `${month(f.month)} is open; there is nothing to open again.`,
  'month-not-last': (f: { month: string; last: string }) =>
    `Months are opened again from the last one back: open ${month(f.last)} before ${month(f.month)}.`,

  'posted-later': (f: { day: string; on: string }) =>
    `The month of ${d(f.day)} is closed: this keeps its day and is posted on ${d(f.on)}.`,

  // any act
  'signed-out': () => 'You are signed out; sign in and nothing you typed is lost.',
  'no-right': (f: { act: string }) => `Your role does not allow you to ${f.act}; ask whoever keeps the roles.`,
  'asked-for': () => 'This waits for a second person now, who finds it in Today; nothing is done before.',
  'second-person': (f: { what: string }) => `${f.what}: this will wait for a second person to approve it.`,
  'asked-decided': (f: { how: string }) => `Somebody was faster: this is ${f.how} already.`,
  'asked-before-change': (f: { act: string }) =>
    `This was asked for before ${f.act} took what it takes today: return it, and ask anew.`,
  'asked-own': () => 'Who asked for it cannot approve it; another person must.',
  'no-right-to-see': () => 'Your role does not show you this; ask whoever keeps the roles.',
  'wrong-sign-in': () => 'That name and password do not go together; try again.',
  'too-many-attempts': (f: { minutes: string }) =>
    `Too many attempts from here; wait ${f.minutes} min and try again, or sign in where you did before.`,
  stale: (f: { document: string; who: string; when: string; changes: string }) =>
    `${f.document} was changed by ${f.who} meanwhile (${f.changes}); look at theirs and save yours again.`,
  'key-reused': () => 'This was sent before with other content; reload the page and do it again.',
  'too-busy': (f: { seconds: string }) =>
    `Kampong has more to do than it can at once; nothing was begun, try again in ${f.seconds} s.`,
  busy: () => 'Others are changing the same documents right now; try again in a moment.',
  'database-away': () => 'The database cannot be reached; nothing was changed, and it goes on when it is back.',
  'no-room': () =>
    'The disk is full: nothing was changed, and it goes on when there is room again; tell whoever looks after Kampong.',
  'not-found': (f: { what: string }) => `${f.what} is not in this company; it may belong to another one.`,
  fault: (f: { reference: string }) =>
    `Something went wrong on our side and nothing was changed; say ${f.reference} to whoever looks after Kampong.`,

  // what is kept in lists
  'nothing-typed': () => 'Nothing is changed yet; change a row first.',
  'row-gone': () => 'This row is not there any more; somebody removed it. Read the list again.',
  'row-changed': () => 'Somebody changed this row meanwhile; read the list again and type it over theirs.',
  'row-stays': (f: { list: string }) => `Rows of ${f.list} are neither added nor removed here; only change them.`,
  'row-in-use': (f: { row: string }) => `${f.row} is in use and stays; what uses it must go first.`,
  'there-already': () => 'Something by that name or number is there already; look for it and use that one.',
  'row-twice': (f: { row: string }) => `There is a row for ${f.row} already; change that one instead.`,
  'own-unit': (f: { item: string; unit: string }) =>
    `${f.unit} is the unit ${f.item} is counted in; name another unit.`,

  'bom-circle': (f: { path: string }) => `This closes a circle: ${f.path}; take one of its lines out.`,

  // A: agreements
  'period-reversed': (f: { first: string; last: string }) =>
    `The last day ${d(f.last)} is before the first day ${d(f.first)}; put it on or after it.`,
  'signed-late': (f: { signed: string; last: string }) =>
    `It cannot be signed on ${d(f.signed)}, after its last day ${d(f.last)}.`,
  'no-lines': (f: { document: string }) => `${f.document} has no lines yet; add one.`,
  'item-twice': (f: { item: string; line: string }) =>
    `${f.item} is already on line ${f.line}; commit it once, with the whole quantity.`,
  'not-a-percent': (f: { what: string }) => `${f.what} is a per cent between 0 and 100.`,
  'not-a-discount': () => 'A discount is above 0 and below 100 per cent.',
  'not-a-priority': () => 'The priority is a whole number from 1 (asked first) to 9 (asked last).',
  'unit-unknown': (f: { item: string; units: string }) => `${f.item} is not sold in that unit; choose from ${f.units}.`,
  'price-is-agreed': (f: { item: string; agreement: string }) =>
    `The price of ${f.item} is the one agreed in ${f.agreement}; choose the list under Priced by to give another.`,
  'breaks-without-price': () => 'Price breaks need an agreed price or discount; give one, or leave the breaks out.',
  'breaks-not-rising': (f: { from: string }) =>
    `The price break from ${n(f.from)} does not come after the one before it; put them in rising order.`,
  'not-a-multiple': (f: { quantity: string; multiple: string }) =>
    `${n(f.quantity)} is not a multiple of ${n(f.multiple)}; give a multiple.`,
  'below-least': (f: { item: string; asked: string; least: string }) =>
    `${n(f.asked)} of ${f.item} is below the least release of ${n(f.least)}; ask ${n(f.least)} or more, or all that is left.`,
  'split-at-limit': (f: { item: string; fits: string; rest: string; price: string; list: string; agreement: string }) =>
    `${n(f.fits)} of ${f.item} go at ${f.price} from ${f.agreement}; the other ${n(f.rest)} at ${f.list}, on a line of their own.`,
  'above-value': (f: { item: string; asked: string; left: string; currency: string; agreement: string }) =>
    Number(f.left) > 0
      ? `${f.currency} ${f.asked} of ${f.item} is more than the ${f.left} left on ${f.agreement}; ask less.`
      : `Nothing of the value is left on ${f.agreement} for ${f.item}; order it without the agreement.`,
  'split-in-value': (f: { item: string; fits: string; currency: string; list: string; agreement: string }) =>
    Number(f.fits) > 0
      ? `${f.currency} ${f.fits} of ${f.item} go at the agreed price from ${f.agreement}; what is beyond it at ${f.list}, on the same line.`
      : `The value of ${f.agreement} is used up; ${f.item} goes at ${f.list}.`,
  'fixed-without-item': () => 'A fixed price needs an item; give a discount in per cent, or list.',
  'not-sold-by': (f: { vendor: string; item: string }) =>
    `${f.vendor} does not sell ${f.item} to us; choose another item or vendor.`,
  'agreement-not-covering': (f: { item: string }) =>
    `This agreement does not cover ${f.item} now; choose another one, or none.`,
  'only-contracted': (f: { customer: string; item: string }) =>
    `${f.customer} buys only what an agreement prices, and none in force covers ${f.item}; agree on it first, or leave it out.`,
  'tiers-without-rebate': () => 'Rebate tiers need a kind of rebate; choose one, or leave the tiers out.',
  'not-a-reminder': (f: { at: string }) =>
    `${f.at} is no reminder; write 30 days, 80 % or pace -15, with semicolons between.`,
  'reminder-twice': (f: { at: string }) => `The reminder at ${f.at} is there already; leave one out.`,
  'not-days-ahead': () => 'Days ahead is a whole number from 0 to 365; leave it empty to release by hand.',
  'nothing-planned': (f: { agreement: string; day: string }) =>
    `Nothing planned on ${f.agreement} up to ${d(f.day)} is left to release; choose a later day.`,
  'line-released': (f: { item: string; released: string }) =>
    `${n(f.released)} of ${f.item} are released already; the line stays as it is.`,
  'below-released': (f: { item: string; released: string }) =>
    `${n(f.released)} of ${f.item} are released already; commit to that or more.`,
  'nothing-changed': (f: { agreement: string }) => `Nothing on ${f.agreement} is changed yet; change a field first.`,
  'prepayment-undecided': (f: { agreement: string; currency: string; left: string }) =>
    `${f.currency} ${f.left} paid ahead on ${f.agreement} are left; pay them back, or carry them to a renewal.`,
  'nothing-to-carry-to': (f: { left: string }) =>
    `There is no renewal to carry ${f.left} to; renew the agreement, or pay them back.`,
  'charge-is-theirs': () => 'What we did not take from a vendor is theirs to charge; waive it, extend or renew.',
  'nothing-to-charge': (f: { agreement: string }) => `Nothing is left on ${f.agreement} to charge; end it.`,
  'no-rebate-owed': (f: { agreement: string }) =>
    `No rebate is owed on ${f.agreement}; it is settled already, or no tier is reached yet.`,
  'no-rebate-to-claim': (f: { agreement: string }) =>
    `Nothing of the rebate of ${f.agreement} was settled beyond what is owed; there is nothing to claim back.`,
  'prepaid-by-vendor': () => 'Only a customer pays us ahead; choose an agreement with a customer.',
  'columns-missing': (f: { columns: string }) =>
    `The file has no column for ${f.columns}; the first row must name the columns, as Save as CSV writes them.`,
  'not-an-order': (f: { root: string }) => `This file is a ${f.root}, not an order; choose an order in UBL 2.1.`,
  'not-ubl': (f: { path: string; what: string }) =>
    `This file does not follow UBL 2.1 at ${f.path}: it ${f.what}; have it written anew.`,
  'file-empty': () => 'The file holds no agreement; put one line of an agreement on each row.',
  'file-too-long': (f: { most: string }) => `The file holds more than ${f.most} rows; bring it in in parts.`,
  'file-too-heavy': (f: { name: string }) =>
    `${f.name} asks for far more room than its rows need; save just the rows as CSV and bring that in.`,
  'file-unreadable': (f: { name: string }) =>
    `${f.name} is no CSV or XLSX file Kampong can read; save it again as one.`,
  'file-has-problems': (f: { count: string }) =>
    `${f.count} ${f.count === '1' ? 'cell' : 'cells'} of the file cannot be taken; mend them, or take the good lines.`,
  'nothing-good': () => 'No line of the file can be taken; mend it and bring it in again.',
  'planned-twice': (f: { item: string; day: string }) =>
    `${f.item} is planned for ${d(f.day)} already; plan the whole quantity there once.`,
  'agreement-not-so': (f: { agreement: string; state: string; needed: string }) =>
    `${f.agreement} is ${state(f.state)}; this is done while it is ${state(f.needed)}.`,
  'remainder-undecided': (f: { agreement: string; what: string }) =>
    `${f.agreement} has ${f.what} left; waive it, extend the agreement, or renew it.`,
  'not-extended': (f: { last: string; workDate: string }) =>
    `The new last day must come after ${d(f.last)} and not before ${d(f.workDate)}.`,
  'agreement-not-draft': (f: { agreement: string; state: string }) =>
    `${f.agreement} is ${state(f.state)}; only a draft can be changed here.`,
  'agreement-not-in-force': (f: { agreement: string; state: string }) =>
    f.state === 'paused'
      ? `${f.agreement} is paused and cannot be released; let it go on first.`
      : `${f.agreement} is ${state(f.state)} and cannot be released; put it in force first.`,
  'outside-period': (f: { agreement: string; first: string; last: string; day: string }) =>
    `${f.agreement} holds from ${d(f.first)} to ${d(f.last)}; ${d(f.day)} is outside it.`,
  'above-limit': (f: { item: string; asked: string; left: string; unit: string; agreement: string }) =>
    Number(f.left) > 0
      ? `${inUnits(n(f.asked), f.unit)} of ${f.item} ${n(f.asked) === '1' ? 'is' : 'are'} more than the ${n(f.left)} left on ${f.agreement}; ask ${n(f.left)} or less.`
      : `Nothing of ${f.item} is left on ${f.agreement}; order it without the agreement.`,
  'amount-too-large': () => 'This comes to a million millions or more; check the quantity and the price.',
  'nothing-asked': (f: { what: string }) => `Nothing is asked yet; give ${f.what} on at least one line.`,

  // S: sales orders
  'reference-required': (f: { customer: string }) =>
    `${f.customer} wants their own reference on every order; ask them for it.`,
  'ship-date-past': (f: { day: string; workDate: string }) =>
    `${d(f.day)} is before the work date ${d(f.workDate)}; give that day or a later one.`,
  'order-not-draft': (f: { order: string; state: string }) =>
    `${f.order} is ${f.state}; only a draft order can be changed or confirmed here.`,
  'order-not-open': (f: { order: string; state: string }) => `${f.order} is ${f.state}; there is nothing to promise.`,
  'nothing-to-promise': (f: { order: string }) => `Nothing of this line of ${f.order} is open any more; leave it out.`,
  'nothing-promised': (f: { order: string }) => `Nothing of ${f.order} was promised; there is nothing to take back.`,
  'no-promise': (f: { why: string }) => `${f.why.replace(/[.]$/, '')}; nothing was promised.`,
  'promise-moved': (f: { was: string; is: string }) =>
    `It was ${d(f.was)} when you looked and is ${d(f.is)} now, since something changed; look again and accept that.`,
  'line-planned': (f: { number: string }) =>
    `${f.number} is planned for this line as it is; take the promise of the order back first.`,
  'beyond-horizon': (f: { first: string; last: string }) =>
    `Planning looks from ${d(f.first)} to ${d(f.last)}; choose a day between.`,
  'planning-going': () => 'A planning run is going on already; wait for it, or stop it.',
  'plan-moved': () => 'This is not what planning proposes any more; plan again and look at it anew.',
  'proposal-taken': (f: { number: string }) => `This was taken already; see ${f.number}.`,
  'run-going': () => 'All open lines are being asked again already; wait for that, or stop it.',
  'promise-changed': () => 'This line was changed since the run; ask all open lines again and take what that says.',
  'planned-running': (f: { number: string }) => `${f.number} is being worked on; it cannot be taken back any more.`,
  'above-whole': (f: { agreement: string; asked: string; left: string }) =>
    `${f.asked} is more than the ${f.left} left of the whole of ${f.agreement}; take that, or revise its limit.`,
  'not-a-whole-limit': () => 'Write an amount like 50000, or a quantity with its unit like 1000 kg.',
  'whole-unit-not-shared': (f: { item: string; unit: string }) =>
    `${f.item} has no ${f.unit}; take a unit that all lines share, or limit the value.`,
  'planned-not-placeable': (f: { number: string; state: string }) =>
    `${f.number} is ${f.state}; only a planned purchase that is not placed yet can be placed.`,
  'planned-is-bought': (f: { number: string }) => `${f.number} is bought; place it with a vendor.`,
  'planned-not-workable': (f: { number: string; state: string }) =>
    `${f.number} is ${f.state}; only an order that is planned to be made or assembled can be made firm, and only a firm one planned again.`,
  'order-not-confirmed': (f: { order: string; state: string }) => `${f.order} is ${f.state}; confirm it first.`,
  'nothing-moved': (f: { order: string }) => `No line of ${f.order} ships on another day than its customer knows.`,
  'closed-line-changed': (f: { order: string; line: string }) =>
    `Line ${f.line} of ${f.order} was changed since it was closed short; add a line for what is wanted again.`,
  'nothing-closed': (f: { order: string }) =>
    `No line of ${f.order} that was asked for is closed short; there is nothing to open again.`,
  'order-unchanged': (f: { document: string }) =>
    `Nothing of ${f.document} is other than it was; change something, or leave it.`,
  'line-confirmed': (f: { order: string; line: string }) =>
    `Line ${f.line} of ${f.order} is confirmed and stays; close it short to give it up.`,
  'line-stays': (f: { order: string; line: string; what: string }) =>
    `${f.what} of line ${f.line} stays as it was confirmed; close the line short, and add another.`,
  'line-supplied': (f: { order: string; line: string }) =>
    `How line ${f.line} is supplied, and from where, is changed by itself: take Supply of line ${f.line} on ${f.order}.`,
  'line-closed-short': (f: { order: string; line: string }) =>
    `Some of line ${f.line} was closed short; add a line for what is wanted again.`,
  'price-shipped': (f: { order: string; line: string; kept: string; is: string }) =>
    `Some of line ${f.line} went out at ${n(f.kept)}; it cannot be ${n(f.is)} by now. Add a line for what is to have another price.`,
  'below-supply-tied': (f: { order: string; line: string; tied: string; purchases: string }) =>
    `${n(f.tied)} of line ${f.line} come with ${f.purchases}; change both ends of the tie, or untie it first.`,
  'ship-to-tied': (f: { order: string; purchases: string }) =>
    `Goods of ${f.order} go straight to its address with ${f.purchases}; change the address on both ends of their ties.`,
  'order-moved': (f: { order: string }) =>
    `Goods of ${f.order} came or went out already; close short what is still open instead.`,
  'price-missing': (f: { item: string }) =>
    `${f.item} has no price above zero; give one, or say why it goes for nothing.`,
  'permit-missing': (f: { customer: string; permit: string; item: string; day: string }) =>
    `${f.customer} has no ${f.permit} valid on ${d(f.day)}, which ${f.item} needs; ask them for it.`,
  'over-credit': (f: { customer: string; limit: string; over: string; currency: string }) =>
    `${f.customer} would be ${f.currency} ${f.over} above their credit limit of ${f.limit}; a sales manager may let it pass.`,
  'over-credit-why': (f: { customer: string; limit: string; over: string; currency: string }) =>
    `${f.customer} would be ${f.currency} ${f.over} above their credit limit of ${f.limit}; say why it may pass.`,
  'route-not-kept': (f: { item: string; route: string }) =>
    `${f.item} cannot be supplied by ${f.route}; choose another route.`,
  'stock-moved': (f: { item: string; place: string; is: string }) =>
    `${f.item} at ${f.place} moved meanwhile: ${f.is} are there by now; count again, and say how many there are.`,
  'below-held': (f: { item: string; place: string; held: string }) =>
    `${f.held} of ${f.item} at ${f.place} are held for orders; let go of what is missing there first.`,
  'stock-the-same': (f: { item: string; place: string; is: string }) =>
    `${f.is} of ${f.item} are known to be at ${f.place} already; there is nothing to put right.`,
  'no-adjustment': (f: { document: string }) =>
    `${f.document} put no stock right by hand; take back the document that moved the goods.`,
  'nothing-carried': (f: { document: string }) =>
    `${f.document} carried no goods between our places; take back the document that moved them.`,
  'not-under-way': (f: { document: string }) =>
    `Nothing of ${f.document} is under way any more: it arrived, or was taken back.`,
  'above-under-way': (f: { document: string; item: string; asked: string; open: string }) =>
    `${n(f.open)} of ${f.item} are under way with ${f.document}, not ${n(f.asked)}; let those arrive, and put the rest right as stock.`,
  'number-not-with': (f: { number: string; document: string }) =>
    `${f.number} is not under way with ${f.document}; take one that left with it.`,
  'arrived-first': (f: { document: string; arrived: string }) =>
    `${n(f.arrived)} of what left with ${f.document} arrived already; take the arrival back first.`,
  'no-rate': (f: { currency: string; day: string }) =>
    `What ${f.currency} was worth on ${d(f.day)} is not kept, so nothing in it can be posted; keep a rate of that day or an earlier one under Lists, Exchange rates.`,
  'no-rate-yet': (f: { currency: string; vendor: string }) =>
    `${f.vendor} sells in ${f.currency}, of which no rate is kept: what comes from them cannot be received before there is one.`,
  'no-vendor': (f: { item: string }) =>
    `Nobody sells ${f.item} to us, so it cannot be bought for an order; choose another route or add a vendor.`,

  'commission-changed': (f: { order: string }) =>
    `Somebody shared the commission of ${f.order} meanwhile; look at it as it is now, and share it again.`,
  'named-twice': (f: { name: string }) => `${f.name} is named already; give the whole share there.`,
  'shares-not-whole': (f: { sum: string }) => `The shares come to ${n(f.sum)} %; they must come to 100.`,

  'not-the-same-way': (f: { order: string; with: string }) =>
    `${f.order} does not go to the customer and address of ${f.with}; ship it by itself.`,

  // P: what was posted
  'reversed-already': (f: { document: string; by: string }) => `${f.document} was reversed already, by ${f.by}.`,
  'is-reversal': (f: { document: string; of: string }) =>
    `${f.document} reverses ${f.of}; post the movement anew instead of reversing that.`,
  'takes-back': (f: { document: string; of: string }) =>
    `${f.document} takes ${f.of} back; enter the invoice anew instead of taking that back.`,
  'invoiced-first': (f: { document: string; invoice: string }) =>
    `${f.document} is covered by ${f.invoice}; reverse that first.`,
  'credited-already': (f: { invoice: string }) =>
    `Something of ${f.invoice} was credited already; credit the rest of it line by line.`,
  // P6: pieces with numbers of their own
  'not-a-pattern': () =>
    'Numbers are made with one run of # where the count stands, and {YY} for the year: PM15-{YY}-####.',
  'not-a-serial': (f: { most: string }) => `A serial number has 1 to ${f.most} characters; type it again.`,
  'numbers-needed': (f: { item: string; quantity: string }) =>
    `Type the serial numbers of the ${n(f.quantity)} ${f.item} that come; no pattern makes them.`,
  'numbers-not-as-many': (f: { item: string; quantity: string; numbers: string }) =>
    `${n(f.quantity)} of ${f.item} move and ${f.numbers} ${f.numbers === '1' ? 'number is' : 'numbers are'} given; give one for each.`,
  'numbers-short': (f: { item: string; asked: string; free: string; place: string }) =>
    `${f.asked} of ${f.item} move and ${f.free} with a number are free at ${f.place}; count them, or free those that are held.`,
  'numbers-which': (f: { item: string; quantity: string; out: string }) =>
    `${f.out} of ${f.item} went out on this line and ${n(f.quantity)} come back; give their numbers.`,
  'number-not-out': (f: { number: string }) => `${f.number} did not go out on this line; give one that did.`,
  'number-not-kept': (f: { number: string }) =>
    `${f.number} cannot be told: its item is not kept by serial number; leave it out, or keep the item by number first.`,
  'number-twice': (f: { number: string }) => `${f.number} is given twice; give another, or one fewer.`,
  'number-unknown': (f: { number: string; item: string }) =>
    `No ${f.item} has the number ${f.number}; look at the list of its numbers.`,
  'number-exists': (f: { number: string; item: string; is: string; at: string; order: string }) =>
    `${f.number} of ${f.item} is there already: it ${whereIs(f)}. Type another number.`,
  'number-held': (f: { number: string; order: string }) =>
    `${f.number} is held for ${f.order}; take another, or let it go there first.`,
  'number-elsewhere': (f: { number: string; place: string; is: string; at: string; order: string }) =>
    `${f.number} is not at ${f.place}: it ${whereIs(f)}. Take another.`,
  'number-moved-on': (f: { document: string; number: string; is: string; at: string; order: string }) =>
    `${f.number} of ${f.document} ${whereIs(f)} since; take back what moved it first.`,
  'number-stock': (f: { item: string; onHand: string }) =>
    `${n(f.onHand)} of ${f.item} are here without numbers; put them to 0, keep it by number, and bring them in with theirs.`,
  'number-running': (f: { item: string; what: string }) =>
    `${f.item} is under way on ${f.what}; let that come or end before it is kept by number.`,
  'number-whole': (f: { item: string; unit: string }) =>
    `${f.item} is counted in ${f.unit}, which can be parted; only whole pieces have numbers.`,
  'number-same': (f: { number: string }) => `${f.number} is what it is called already.`,
  'number-not-part': (f: { number: string }) =>
    `${f.number} is not used in a product; only parts can be put into another.`,
  'number-not-product': (f: { work: string }) => `This did not come of ${f.work}; choose a product of that order.`,
  'number-changed': (f: { was: string; is: string }) =>
    `Somebody wrote ${f.is} for ${f.was} meanwhile; look at it as it is now, and type it again.`,

  'goods-gone': (f: { document: string; item: string; quantity: string; here: string }) =>
    `${f.document} brought ${n(f.quantity)} of ${f.item} and only ${n(f.here)} of them can be had; take back what they went out with first.`,

  // L: ties and routes
  'line-covered': (f: { order: string; line: string }) =>
    `${f.order} line ${f.line} has its supply already; somebody may have placed it just now.`,
  'vendor-not-selling': (f: { vendor: string; item: string; others: string }) =>
    `${f.vendor} does not sell ${f.item} to us; choose ${f.others}.`,
  'vendor-not-approved': (f: { vendor: string; item: string; approved: string }) =>
    `${f.vendor} is not approved for ${f.item} on this day; ${f.approved ? `buy it from ${f.approved}` : 'nobody is: have one approved first'}.`,
  'line-not-bought': (f: { order: string; line: string; route: string }) =>
    `${f.order} line ${f.line} is supplied by ${f.route}; nothing is bought for it.`,
  'drop-in-one': (f: { order: string; line: string; open: string }) =>
    `${f.order} line ${f.line} is one drop shipment; place all ${n(f.open)}, or make two lines of it.`,
  'not-as-vendor-sells': (f: { vendor: string; item: string; asked: string; sold: string }) =>
    `${f.vendor} sells ${f.item} by ${n(f.sold)}, not ${n(f.asked)}; as a special order the rest would come to our stock.`,
  'vendor-sells-by': (f: { vendor: string; item: string; asked: string; sold: string }) =>
    `${f.vendor} sells ${f.item} by ${n(f.sold)}, not ${n(f.asked)}; ask ${n(f.sold)} unless they agreed.`,
  'tie-received': (f: { line: string; purchase: string; received: string }) =>
    `${n(f.received)} of ${f.purchase} came for ${f.line} already; reverse the receipt first, or let the tie stand.`,
  'tie-other-item': (f: { line: string; purchase: string; item: string; other: string }) =>
    `${f.line} is for ${f.item} and ${f.purchase} for ${f.other}; choose a purchase of ${f.item}.`,
  'tie-other-way': (f: { line: string; purchase: string; route: string }) =>
    `${f.line} is supplied by ${f.route} and ${f.purchase} goes elsewhere; choose another, or change the route.`,
  'tie-other-location': (f: { line: string; purchase: string }) =>
    `${f.line} goes out from another of our places than ${f.purchase} comes to; choose a purchase that comes there, or change where the line goes out from.`,
  'tie-other-address': (f: { line: string; purchase: string }) =>
    `${f.purchase} goes to another address than ${f.line}; change one of them first, or choose another.`,
  'purchase-not-open': (f: { purchase: string; state: string }) =>
    `${f.purchase} is ${f.state}; this is done while it is placed.`,
  'comes-here-already': (f: { purchase: string }) => `${f.purchase} comes to our place already.`,
  'below-received': (f: { purchase: string; line: string; received: string; asked: string }) =>
    `${n(f.received)} of ${f.purchase} line ${f.line} have come; it cannot become ${n(f.asked)}.`,
  'below-orders-tied': (f: { purchase: string; line: string; tied: string; orders: string }) =>
    `${n(f.tied)} of ${f.purchase} line ${f.line} are for ${f.orders}; change both ends of the tie, or untie it first.`,
  'price-received': (f: { purchase: string; line: string; kept: string; is: string }) =>
    `Some of ${f.purchase} line ${f.line} came at ${n(f.kept)}; it cannot be ${n(f.is)} by now. Add a line for what is to have another price.`,
  'purchase-place-stays': (f: { purchase: string; line: string; orders: string }) =>
    f.orders
      ? `Line ${f.line} of ${f.purchase} is waited for where it comes to by ${f.orders}; untie it first.`
      : `Some of line ${f.line} of ${f.purchase} came already; what is to come elsewhere is a purchase of its own.`,
  'nothing-open': (f: { purchase: string; line: string }) =>
    `All of ${f.purchase} line ${f.line} has come already; there is nothing to stop.`,
  'nothing-loose': (f: { purchase: string }) => `All of ${f.purchase} is tied to sales orders already.`,
  'pair-changed': (f: { order: string; purchase: string; what: string }) =>
    `Somebody changed ${f.what} of ${f.order} and ${f.purchase} meanwhile; look at it as it is now, and type it again.`,
  'below-moved': (f: { order: string; item: string; asked: string; moved: string }) =>
    `${n(f.moved)} of ${f.item} came for ${f.order} or are held for it; that cannot become ${n(f.asked)}.`,
  'mixed-price': (f: { order: string; purchase: string }) =>
    `A line of ${f.order} or ${f.purchase} is priced partly by an agreement; leave its quantity, and order what is more on its own.`,
  'break-crossed': (f: { item: string; agreement: string; kept: string; is: string }) =>
    `${f.agreement} prices ${f.item} at ${f.is} for this quantity; the line keeps ${f.kept}.`,
  'purchase-shared': (f: { purchase: string; order: string }) =>
    `${f.purchase} also serves another order than ${f.order}; send both to the new address, or untie one first.`,
  'still-tied': (f: { purchase: string }) => `${f.purchase} is still tied to a sales order; untie it first.`,
  'loose-purchase': (f: { purchase: string; line: string }) =>
    `${f.purchase} line ${f.line} goes to a customer and is for no order; tie it, make an order of it, or let it come to our stock.`,
  'above-open': (f: { document: string; line: string; item: string; asked: string; open: string }) =>
    Number(f.open) > 0
      ? `${n(f.asked)} of ${f.item} is more than the ${n(f.open)} still open on ${f.document} line ${f.line}; give ${n(f.open)} or less.`
      : `Nothing of ${f.item} is open any more on ${f.document} line ${f.line}.`,
  'above-tolerance': (f: {
    document: string;
    line: string;
    item: string;
    asked: string;
    open: string;
    beyond: string;
  }) => {
    const room = String(Math.max(0, Number(f.open) + Number(f.beyond)));
    const open = Number(f.open) > 0 ? `${n(f.open)} still open` : 'nothing still open';
    return `${n(f.asked)} of ${f.item} is too much on ${f.document} line ${f.line}: ${open}, and ${n(f.beyond)} may come beyond; give ${n(room)} or less.`;
  },
  'purchase-not-placed': (f: { purchase: string; state: string }) =>
    `${f.purchase} is ${f.state}; only a placed order can be received.`,
  'above-on-hand': (f: { item: string; asked: string; onHand: string }) =>
    `${n(f.asked)} of ${f.item} is more than the ${n(f.onHand)} on hand and free for it; ship ${n(f.onHand)} or less.`,
  'not-here-yet': (f: { item: string; asked: string; here: string; order: string; line: string }) =>
    Number(f.here) > 0
      ? `${n(f.here)} of ${f.item} were received for ${f.order} line ${f.line}, not ${n(f.asked)}; ship ${n(f.here)} or receive the rest first.`
      : `Nothing of ${f.item} was received for ${f.order} line ${f.line} yet; receive its purchase first.`,
  'not-made-yet': (f: { item: string; asked: string; here: string; order: string; line: string }) =>
    Number(f.here) > 0
      ? `${n(f.here)} of ${f.item} are made for ${f.order} line ${f.line}, not ${n(f.asked)}; ship ${n(f.here)}, or report the rest first.`
      : `Nothing of ${f.item} is made for ${f.order} line ${f.line} yet; report its production first.`,
  'line-tied': (f: { order: string; line: string }) =>
    `${f.order} line ${f.line} is tied to a purchase; untie it first, then supply it otherwise.`,
  'line-part-shipped': (f: { order: string; line: string }) =>
    `Part of ${f.order} line ${f.line} went out already; close it short, and order the rest the other way.`,
  'line-reserved': (f: { order: string; line: string; item: string; reserved: string }) =>
    `${n(f.reserved)} of ${f.item} are held in stock for ${f.order} line ${f.line}; say yes to let go of them.`,
  'route-holds-nothing': (f: { item: string }) =>
    `A drop shipment of ${f.item} never comes to our place, so nothing can be held for it.`,
  'never-reserved': (f: { item: string }) => `${f.item} is never held for orders; it goes to who ships first.`,
  'same-location': () => 'The goods are there already; choose another location.',
  'above-free-there': (f: { item: string; asked: string; free: string; place: string }) =>
    `${n(f.asked)} of ${f.item} is more than the ${n(f.free)} free at ${f.place}; move ${n(f.free)} or less, or let go of what is held.`,
  'above-free': (f: { item: string; asked: string; free: string }) =>
    Number(f.free) > 0
      ? `${n(f.asked)} of ${f.item} is more than the ${n(f.free)} that can be held; ask ${n(f.free)} or less.`
      : `Nothing of ${f.item} is free to be held; buy it, or wait for some.`,
  'received-beyond': (f: { purchase: string; line: string; item: string; over: string }) =>
    `${n(f.over)} of ${f.item} are more than ${f.purchase} line ${f.line} asked for; they go to our stock.`,

  // W: workshop and stock keeping
  'not-kept': (f: { item: string }) => `${f.item} is not kept in stock; there is nothing of it to count.`,
  'being-counted': (f: { item: string; count: string }) =>
    `${f.item} is being counted on ${f.count} already; count it there.`,
  'nothing-to-count': () => 'Nothing that is kept here is left to count; another sheet may be counting it already.',
  'count-not-open': (f: { count: string; state: string }) => `${f.count} is ${f.state}; begin another count.`,
  'nothing-counted': (f: { count: string }) => `Nothing is counted on ${f.count} yet; write how many there are.`,
  'some-not-counted': (f: { lines: string }) =>
    f.lines === '1'
      ? '1 line was not counted; it stays as it is known.'
      : `${f.lines} lines were not counted; they stay as they are known.`,
  'count-not-posted': (f: { count: string }) => `${f.count} is not posted; cancel it instead.`,
  'on-the-sheet': (f: { item: string; count: string }) => `${f.item} is on ${f.count} already.`,
  'work-not-firm': (f: { order: string; state: string }) =>
    f.state === 'planned'
      ? `${f.order} is only planned; make it firm first.`
      : `${f.order} is ${f.state}; nothing more is reported on it.`,
  'work-not-open': (f: { work: string; state: string }) => `${f.work} is ${f.state}; only one that goes on is changed.`,
  'operation-over': (f: { operation: string; work: string }) =>
    `All of ${f.work} passed ${f.operation}; choose an operation that is still to be done.`,
  'item-out-of-use': (f: { item: string }) =>
    `${f.item} is out of use; take another item, or say on its list that it is used again.`,
  'component-out-of-use': (f: { item: string; component: string }) =>
    `${f.component} goes into ${f.item} and is out of use; put another component in its place on the bill of materials.`,
  'options-few': (f: { item: string; group: string; least: string }) =>
    `${f.item} comes with a choice of ${f.group}; choose ${f.least === '1' ? 'one' : `at least ${f.least}`}.`,
  'options-many': (f: { item: string; group: string; most: string }) =>
    `${f.item} takes ${f.most === '1' ? 'one' : `at most ${f.most}`} of ${f.group}; leave the others out.`,
  'option-needs': (f: { option: string; other: string }) =>
    `${f.option} goes only with ${f.other}; choose it as well, or another instead of ${f.option}.`,
  'option-excludes': (f: { option: string; other: string }) =>
    `${f.option} does not go with ${f.other}; choose one of the two.`,
  'option-unknown': (f: { item: string }) => `That is not among what may be chosen for ${f.item}; choose again.`,
  'options-not-made': (f: { item: string; options: string }) =>
    `${f.item} with ${f.options} is made for its order; supply it by making, or leave it as it usually is.`,
  'parts-short': (f: { item: string; part: string; needed: string; free: string; comesOn: string }) =>
    `${f.item} takes ${n(f.needed)} of ${f.part}; ${Number(f.free) > 0 ? `${n(f.free)} are free` : 'none is free'}, and ${
      f.comesOn ? `more come on ${d(f.comesOn)}` : 'none is coming'
    }.`,
  'operation-begun': (f: { operation: string }) =>
    `${f.operation} is reported already; leave it as it is, and change what comes after it.`,
  'work-in-time': (f: { work: string }) =>
    `Nothing of ${f.work} is late, and no part it waits for comes later than it is needed.`,
  'operation-before-begun': (f: { no: string }) =>
    `Pieces passed operation ${f.no} already; give this one a number above it.`,
  'operation-twice': (f: { no: string }) => `There is an operation ${f.no} already; give this one another number.`,
  'operation-must-follow': (f: { operation: string }) =>
    `Pieces passed ${f.operation} and did not come out yet; leave an operation after it.`,
  'work-came-out': (f: { work: string; operation: string }) =>
    `${f.operation} is the last of ${f.work}, and pieces came out of it; nothing can be done after it.`,
  'whole-pieces': (f: { item: string }) => `${f.item} is counted in whole ones; write a whole number.`,
  'not-minutes': () => 'Write whole minutes, like 90.',
  'nothing-reported': (f: { order: string }) =>
    `Nothing is reported on ${f.order} yet; say how many were done, or what was used.`,
  'nothing-made': (f: { order: string }) => `Nothing was done on ${f.order}; cancel it instead of finishing it.`,
  'above-ordered': (f: { order: string; item: string; asked: string; left: string }) =>
    Number(f.left) > 0
      ? `${n(f.asked)} of ${f.item} is more than the ${n(f.left)} left of ${f.order}; report ${n(f.left)} or less.`
      : `All of ${f.order} is reported already.`,
  'above-passed': (f: { order: string; operation: string; asked: string; there: string }) =>
    Number(f.there) > 0
      ? `${n(f.asked)} is more than the ${n(f.there)} of ${f.order} that passed ${f.operation}; report ${n(f.there)}, or that first.`
      : `Nothing of ${f.order} passed ${f.operation} yet; report that first.`,
  'component-short': (f: { item: string; asked: string; free: string; place: string }) =>
    Number(f.free) > 0
      ? `It takes ${n(f.asked)} of ${f.item}, and ${n(f.free)} are free at ${f.place}; say what was used instead, or put the stock right.`
      : `It takes ${n(f.asked)} of ${f.item}, and none is free at ${f.place}; say what was used instead, or put the stock right.`,
  'work-finished': (f: { document: string; order: string }) =>
    `${f.order} is finished; take its last report back before ${f.document}.`,
  'report-built-on': (f: { document: string; order: string }) =>
    `Pieces of ${f.document} passed a later operation of ${f.order} since; take that report back first.`,
  'made-goods-gone': (f: { document: string; item: string; order: string; quantity: string }) =>
    `The ${n(f.quantity)} of ${f.item} that ${f.document} made for ${f.order} are not held for it any more; take back what moved them first.`,
  'work-other-item': (f: { work: string; item: string; order: string; line: string }) =>
    `${f.work} makes ${f.item}; ${f.order} line ${f.line} is for something else.`,
  'work-other-options': (f: { work: string; order: string; line: string; item: string }) =>
    `${f.work} makes ${f.item} with other options than ${f.order} line ${f.line} has; tie one that is made as the line says.`,
  'work-other-place': (f: { work: string; order: string; line: string }) =>
    `${f.order} line ${f.line} does not go out from where ${f.work} is made; change where it goes out from first.`,
  'above-tieable': (f: {
    work: string;
    item: string;
    asked: string;
    left: string;
    order: string;
    line: string;
    wanted: string;
  }) =>
    `${n(f.asked)} of ${f.item} is too many: ${n(f.left)} of ${f.work} are for nobody, and ${f.order} line ${f.line} wants ${n(f.wanted)} more.`,
  'all-made': (f: { work: string; order: string; line: string }) =>
    `All of ${f.work} for ${f.order} line ${f.line} is made, and held for it; let go of what is held instead.`,
  'goes-into-itself': (f: { item: string; order: string }) =>
    `${f.item} is made of what ${f.order} makes; it cannot go into it.`,
  'below-used': (f: { item: string; used: string }) => `${n(f.used)} of ${f.item} are used already; give that or more.`,
  'below-planned': (f: { item: string; planned: string }) =>
    `${n(f.planned)} of ${f.item} are planned for it; cancel what is planned first, or give that or more.`,
  'component-used': (f: { item: string; used: string }) =>
    `${n(f.used)} of ${f.item} are used already; take the report back first.`,
  'component-reported': (f: { item: string }) =>
    `${f.item} was reported on this order once; leave it where it is, and say how much of it is needed.`,
  'component-planned': (f: { item: string; planned: string }) =>
    `${n(f.planned)} of ${f.item} are planned for it; cancel what is planned first.`,
  'nothing-makes': (f: { item: string }) => `${f.item} is neither made nor assembled; say how it is obtained first.`,
  'no-bom': (f: { item: string }) => `Nothing is said of what goes into ${f.item}; add its bill of materials first.`,
  'work-begun': (f: { order: string }) =>
    `Work on ${f.order} is reported already; finish it, or take its reports back first.`,
  'made-late': (f: { order: string; line: string; item: string; day: string; shipDate: string }) =>
    `${f.item} of ${f.order} line ${f.line} can be made by ${d(f.day)}, and ships ${d(f.shipDate)}.`,
  'line-made': (f: { order: string; line: string; work: string }) =>
    `${f.work} is made for ${f.order} line ${f.line}; untie or cancel it first, then supply it otherwise.`,
  'work-runs': (f: { work: string }) => `${f.work} runs already; finish it, and make another order for more.`,
  'below-tied': (f: { work: string; held: string }) =>
    `${n(f.held)} of ${f.work} are for somebody; untie them first, or give ${n(f.held)} or more.`,
  'start-past': (f: { order: string; start: string }) =>
    `${f.order} should have begun on ${d(f.start)}; what it is for may come later than it was told.`,

  // P: posting
  'invoice-of-others': (f: { order: string; first: string }) =>
    `${f.order} is of another customer or in another currency than ${f.first}; invoice it by itself.`,
  'invoice-ahead': (f: { day: string }) => `An invoice is not dated ahead; give ${d(f.day)} or an earlier day.`,
  'invoice-before-goods': (f: { day: string }) =>
    `Some of it went out on ${d(f.day)}; date the invoice that day or later, or leave those goods out.`,
  'above-uninvoiced': (f: { typed: string; open: string }) =>
    `${decimalText(f.typed)} is more than the ${decimalText(f.open)} that went out and is not invoiced.`,
  'nothing-to-invoice': (f: { document: string }) =>
    `Nothing on ${f.document} waits to be invoiced; it is invoiced already or nothing has moved yet.`,
  'vendor-number-used': (f: { vendor: string; number: string; invoice: string }) =>
    `${f.vendor}'s number ${f.number} is already on ${f.invoice}; this may be the same invoice twice.`,
  'customer-invoice-first': (f: { order: string }) =>
    `${f.order} was shipped and not yet invoiced; invoice the customer first.`,
  'above-received': (f: { purchase: string; line: string; asked: string; open: string }) =>
    `${n(f.asked)} is more than the ${n(f.open)} received and not invoiced on ${f.purchase} line ${f.line}; receive the rest first.`,
  'above-owed': (f: { invoice: string; asked: string; owed: string }) =>
    `${f.asked} is more than the ${f.owed} still owed on ${f.invoice}; give ${f.owed} or less.`,
  'above-credit': (f: { item: string; asked: string; left: string; invoice: string }) =>
    Number(f.left) > 0
      ? `${n(f.asked)} of ${f.item} is more than the ${n(f.left)} of ${f.invoice} not credited yet; give ${n(f.left)} or less.`
      : `All of ${f.item} on ${f.invoice} is credited already.`,
  'not-below-invoiced': (f: { item: string; price: string }) =>
    `The right price of ${f.item} must be below the ${f.price} it was invoiced at; for more, ship and invoice it.`,
  'nothing-to-close': (f: { order: string }) =>
    `Nothing is open on these lines of ${f.order}; it is shipped, or given up already.`,
  'purchase-on-its-way': (f: { order: string; line: string; purchases: string }) =>
    `${f.order} line ${f.line} has goods on their way (${f.purchases}); receive them first, or untie the purchase.`,
  'shortfall-not-draft': (f: { agreement: string; state: string }) =>
    `The shortfall of ${f.agreement} is ${f.state} already.`,
  'days-order': (f: { what: string; day: string; earliest: string }) =>
    `${f.what} ${d(f.day)} is before ${d(f.earliest)}; give that day or a later one.`,
} as const;

type Sentences = typeof sentences;
export type RefusalCode = keyof Sentences;
type FactsOf<Code extends RefusalCode> =
  Parameters<Sentences[Code]> extends [infer Facts] ? Facts : Record<string, never>;

/** One thing that stands against an act: its rule's code, the field it stands at (`lines.0.quantity`), its facts. */
export type Refusal = {
  [Code in RefusalCode]: { code: Code; field: string; facts: FactsOf<Code> };
}[RefusalCode];

/** A refusal of that code at that field; the compiler asks for the facts its sentence needs. */
export function refuse<Code extends RefusalCode>(code: Code, field: string, facts: FactsOf<Code>): Refusal {
  return { code, field, facts } as Refusal;
}

/** The refusal in words, as a person reads it. */
export function sentenceOf(refusal: Refusal): string {
  return (sentences[refusal.code] as (facts: unknown) => string)(refusal.facts);
}
