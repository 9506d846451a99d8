import { connect, type Database } from '../server/db';
import { migrate } from '../server/db/migrate';
import { copyOfTemplate } from '../server/testing/copy';
import { verify } from '../server/verify';
import { dec, type Day } from '@core/kernel';
import { Actor, layDemo } from '../demo';

/** What is written over by whoever owns the database, and what verifying says of it. // G5 */
const PLANTED: readonly [what: string, statement: string, said: string][] = [
  // Counters of lines.
  [
    'shipped of an order line',
    'UPDATE sales_order_line SET shipped = shipped + 1 WHERE shipped > 0 LIMIT 1',
    'order line shipped',
  ],
  [
    'invoiced of an order line',
    'UPDATE sales_order_line SET invoiced = invoiced - 1 WHERE invoiced > 0 LIMIT 1',
    'order line invoiced',
  ],
  ['tied of an order line', 'UPDATE sales_order_line SET tied = tied + 1 WHERE tied > 0 LIMIT 1', 'order line tied'],
  [
    'tied of a purchase line',
    'UPDATE purchase_order_line SET tied = tied + 1 WHERE tied > 0 LIMIT 1',
    'purchase line tied',
  ],
  [
    'received of a purchase line',
    'UPDATE purchase_order_line SET received = received - 1 WHERE received > 0 LIMIT 1',
    'purchase line received',
  ],
  [
    'invoiced of a purchase line',
    'UPDATE purchase_order_line SET invoiced = invoiced - 1 WHERE invoiced > 0 LIMIT 1',
    'purchase line invoiced',
  ],
  ['a receipt more on a tie', 'UPDATE tie SET received = received + 1 WHERE received > 0 LIMIT 1', 'tie received'],
  // Ties.
  [
    'a tie larger than its purchase line',
    'UPDATE tie t JOIN purchase_order_line l ON l.id = t.purchase_line_id JOIN sales_order_line s ON s.id = t.order_line_id SET t.quantity = t.quantity + 999, l.tied = l.tied + 999, s.tied = s.tied + 999',
    'tied of a purchase line',
  ],
  [
    'a tie larger than its order line',
    'UPDATE tie t JOIN purchase_order_line l ON l.id = t.purchase_line_id JOIN sales_order_line s ON s.id = t.order_line_id SET t.quantity = t.quantity + 999, l.tied = l.tied + 999, s.tied = s.tied + 999',
    'tied of an order line',
  ],
  [
    'a tie of another item',
    'UPDATE purchase_order_line SET item_id = (SELECT MAX(id) FROM item) WHERE tied > 0 LIMIT 1',
    'tie joins different items',
  ],
  ['a late mark that is not so', 'UPDATE tie SET late = NOT late ORDER BY id LIMIT 1', 'tie in step'],
  [
    'a late mark left out',
    'UPDATE tie t JOIN purchase_order_line l ON l.id = t.purchase_line_id SET l.due_date = l.due_date + INTERVAL 900 DAY WHERE t.late = FALSE',
    'tie in step',
  ],
  ['a mark of differing ends', 'UPDATE tie SET differs = NOT differs ORDER BY id DESC LIMIT 1', 'tie in step'],
  [
    'a special order whose goods go to a customer',
    'UPDATE purchase_order p JOIN purchase_order_line l ON l.purchase_order_id = p.id SET p.ship_to_id = (SELECT MIN(id) FROM ship_to) WHERE l.tied > 0 AND p.ship_to_id IS NULL',
    'tie against the way its line is supplied',
  ],
  [
    'a special order received elsewhere',
    'UPDATE purchase_order p JOIN purchase_order_line l ON l.purchase_order_id = p.id SET p.location_id = 1 WHERE l.tied > 0 AND p.ship_to_id IS NULL',
    'tie against the place its line goes out from',
  ],
  [
    'a line that left the bench',
    'UPDATE sales_order_line SET on_bench = FALSE WHERE on_bench LIMIT 1',
    'bench mark of an order line',
  ],
  // Heads and lines.
  ['the net of an order', 'UPDATE sales_order SET net = net + 0.01 LIMIT 1', 'order net'],
  ['the amount of an order line', 'UPDATE sales_order_line SET amount = amount + 1 LIMIT 1', 'order net'],
  [
    'both of them',
    'UPDATE sales_order_line l JOIN sales_order o ON o.id = l.order_id SET l.amount = l.amount + 1, o.net = o.net + 1 WHERE l.id = (SELECT MIN(x.id) FROM sales_order_line x WHERE x.cancelled = 0 AND JSON_LENGTH(x.build_up) > 0)',
    'order line against its price build-up',
  ],
  [
    'a step of a price',
    `UPDATE sales_order_line SET build_up = JSON_SET(build_up, '$[0].amount', '1') WHERE cancelled = 0 AND JSON_LENGTH(build_up) > 0 LIMIT 1`,
    'order line against its price build-up',
  ],
  ['the net of a purchase', 'UPDATE purchase_order SET net = net - 0.01 LIMIT 1', 'purchase net'],
  ['the amount of a purchase line', 'UPDATE purchase_order_line SET amount = amount - 0.01 LIMIT 1', 'purchase net'],
  [
    'the first day of an order',
    'UPDATE sales_order SET first_ship_date = first_ship_date + INTERVAL 1 DAY LIMIT 1',
    'first ship date of an order',
  ],
  [
    'an order closed with open lines',
    "UPDATE sales_order SET state = 'closed' WHERE state = 'confirmed'",
    'order closed with something open',
  ],
  [
    'an order cancelled that was shipped',
    "UPDATE sales_order o JOIN sales_order_line l ON l.order_id = o.id SET o.state = 'cancelled' WHERE l.shipped > 0",
    'order cancelled with something shipped',
  ],
  [
    'a purchase closed with open lines',
    "UPDATE purchase_order SET state = 'closed' WHERE state = 'placed'",
    'purchase closed with something open',
  ],
  [
    'a purchase cancelled that was received',
    "UPDATE purchase_order p JOIN purchase_order_line l ON l.purchase_order_id = p.id SET p.state = 'cancelled' WHERE l.received > 0",
    'purchase cancelled with something received',
  ],
  // Goods.
  ['stock on hand', 'UPDATE stock SET on_hand = on_hand + 1 LIMIT 1', 'stock on hand'],
  ['the value of stock', 'UPDATE stock SET value = value + 0.01 LIMIT 1', 'stock value'],
  ['what is held of stock', 'UPDATE stock SET reserved = reserved + 1 LIMIT 1', 'stock held for orders'],
  [
    'more held for a line than is open',
    'UPDATE sales_order_line l JOIN stock s ON s.item_id = l.item_id AND s.location_id = l.location_id SET l.reserved = l.reserved + 999, s.reserved = s.reserved + 999 WHERE l.reserved > 0',
    'held for an order line',
  ],
  [
    'something held for a closed order',
    "UPDATE sales_order o JOIN sales_order_line l ON l.order_id = o.id SET o.state = 'draft' WHERE l.reserved > 0",
    'held for an order that is not confirmed',
  ],
  [
    'the quantity of a stock entry with its stock',
    "UPDATE stock_entry e JOIN stock s ON s.item_id = e.item_id AND s.location_id = e.location_id SET e.quantity = e.quantity + 1, s.on_hand = s.on_hand + 1 WHERE e.id = (SELECT MIN(x.id) FROM stock_entry x WHERE x.document_kind = 'RC' AND x.place = 'ours')",
    'stock entries against the lines',
  ],
  [
    'the cost of a stock entry with its stock',
    "UPDATE stock_entry e JOIN stock s ON s.item_id = e.item_id AND s.location_id = e.location_id SET e.cost = e.cost + 1, s.value = s.value + 1 WHERE e.id = (SELECT MIN(x.id) FROM stock_entry x WHERE x.document_kind = 'SH' AND x.place = 'ours')",
    'stock entries against the lines',
  ],
  [
    'an entry that is not there',
    "DELETE FROM stock_entry WHERE document_kind = 'SH' AND place = 'ours' LIMIT 1",
    'stock on hand',
  ],
  [
    'an entry at another place',
    "UPDATE stock_entry SET location_id = 1 WHERE document_kind = 'RC' AND place = 'ours' AND location_id = 0 LIMIT 1",
    'stock entry at a place its document is not about',
  ],
  [
    'goods left under way',
    "UPDATE stock_entry SET quantity = quantity - 1 WHERE place = 'vendor-to-customer' AND quantity > 0 LIMIT 1",
    'goods left between vendor and customer',
  ],
  [
    'the quantity of a receipt line',
    'UPDATE receipt_line SET quantity = quantity + 1 LIMIT 1',
    'purchase line received',
  ],
  ['the cost of a receipt line', 'UPDATE receipt_line SET cost = cost + 1 LIMIT 1', 'receipt cost'],
  [
    'the cost of a receipt with its line',
    'UPDATE receipt_line l JOIN receipt r ON r.id = l.receipt_id SET l.cost = l.cost + 1, r.cost = r.cost + 1 WHERE l.id = (SELECT MIN(x.id) FROM receipt_line x)',
    'posted: RC',
  ],
  ['the vendor of a receipt', 'UPDATE receipt SET vendor_id = vendor_id + 1 LIMIT 1', 'receipt from another vendor'],
  [
    'a receipt line of another purchase',
    'UPDATE receipt_line SET receipt_id = receipt_id + 1 ORDER BY id LIMIT 1',
    'receipt line of another purchase',
  ],
  ['the quantity of a shipment line', 'UPDATE shipment_line SET quantity = quantity + 1 LIMIT 1', 'order line shipped'],
  ['the cost of a shipment', 'UPDATE shipment SET cost = cost + 1 LIMIT 1', 'shipment cost'],
  [
    'the cost of a shipment with its line',
    'UPDATE shipment_line l JOIN shipment s ON s.id = l.shipment_id SET l.cost = l.cost + 1, s.cost = s.cost + 1 WHERE l.id = (SELECT MIN(x.id) FROM shipment_line x)',
    'posted: SH',
  ],
  [
    'the customer of a shipment',
    'UPDATE shipment SET customer_id = customer_id + 1 LIMIT 1',
    'shipment to another customer',
  ],
  [
    'a shipment line of another order',
    'UPDATE shipment_line SET shipment_id = shipment_id + 1 ORDER BY id LIMIT 1',
    'shipment line of another order',
  ],
  // The ledger.
  ['one entry of a journal', 'UPDATE journal_entry SET amount = amount + 1 LIMIT 1', 'journal does not balance'],
  [
    'a journal without entries',
    'DELETE e FROM journal_entry e WHERE e.journal_id = (SELECT MIN(id) FROM journal)',
    'journal does not balance',
  ],
  ...(
    [
      'revenue',
      'output-tax',
      'input-tax',
      'cost-of-sales',
      'bank',
      'payable',
      'receivable',
      'inventory',
      'received-not-invoiced',
      'rebates-given',
      'customer-prepayments',
    ] as const
  ).map((role): [string, string, string] => [
    `the account ${role}, in balance`,
    `UPDATE journal_entry e JOIN account a ON a.id = e.account_id AND a.posting_role = '${role}'
        JOIN journal_entry o ON o.journal_id = e.journal_id AND o.id <> e.id
       SET e.amount = e.amount + 1, o.amount = o.amount - 1
     WHERE e.id = (SELECT MIN(x.id) FROM journal_entry x JOIN account y ON y.id = x.account_id AND y.posting_role = '${role}')
       AND o.id = (SELECT MIN(z.id) FROM journal_entry z WHERE z.journal_id = e.journal_id AND z.id <> e.id)`,
    `to ${role}`,
  ]),
  [
    'an entry at another account',
    "UPDATE journal_entry e JOIN account a ON a.id = e.account_id AND a.posting_role = 'revenue' SET e.account_id = (SELECT MIN(x.id) FROM account x WHERE x.posting_role = 'price-difference')",
    'posted: CI',
  ],
  [
    'a journal of another document',
    "UPDATE journal SET document_id = document_id + 1 WHERE document_kind = 'CI' ORDER BY id LIMIT 1",
    'posted: CI',
  ],
  [
    'a journal of another kind of document',
    "UPDATE journal SET document_kind = 'VI' WHERE document_kind = 'CI' ORDER BY id LIMIT 1",
    'posted: VI',
  ],
  [
    'a journal that is not there',
    "DELETE e FROM journal_entry e WHERE e.journal_id = (SELECT MIN(x.id) FROM journal x WHERE x.document_kind = 'SH')",
    'posted: SH',
  ],
  [
    'who owes a receivable',
    'UPDATE journal_entry SET customer_id = customer_id + 1 WHERE customer_id IS NOT NULL LIMIT 1',
    'receivable by customer',
  ],
  [
    'whom a payable is owed',
    'UPDATE journal_entry SET vendor_id = vendor_id + 1 WHERE vendor_id IS NOT NULL LIMIT 1',
    'payable by vendor',
  ],
  // Billing.
  [
    'the net of a customer invoice',
    'UPDATE customer_invoice SET net = net + 1, total = total + 1 LIMIT 1',
    'customer invoice net',
  ],
  [
    'the tax of a customer invoice',
    'UPDATE customer_invoice SET tax = tax + 1, total = total + 1 LIMIT 1',
    'customer invoice tax',
  ],
  [
    'the net of a line and its invoice',
    'UPDATE customer_invoice_line l JOIN customer_invoice i ON i.id = l.invoice_id SET l.net = l.net + 100, i.net = i.net + 100, i.total = i.total + 100 WHERE l.id = (SELECT MIN(x.id) FROM customer_invoice_line x)',
    'tax of a customer invoice',
  ],
  [
    'the tax by code with its invoice',
    "UPDATE invoice_tax t JOIN customer_invoice i ON i.id = t.document_id SET t.tax = t.tax + 1, i.tax = i.tax + 1, i.total = i.total + 1 WHERE t.document_kind = 'CI'",
    'tax of a customer invoice',
  ],
  [
    'the base of a tax',
    "UPDATE invoice_tax SET base = base + 1 WHERE document_kind = 'VI' LIMIT 1",
    'tax of a vendor invoice',
  ],
  [
    'the rate of a tax',
    "UPDATE invoice_tax SET tax_rate = tax_rate + 1 WHERE document_kind = 'CI' LIMIT 1",
    'tax of a customer invoice',
  ],
  [
    'the tax of a credit note',
    "UPDATE invoice_tax SET tax = tax + 1 WHERE document_kind = 'CN' LIMIT 1",
    'credit note tax',
  ],
  [
    'the net of a vendor invoice',
    'UPDATE vendor_invoice SET net = net + 1, total = total + 1 LIMIT 1',
    'vendor invoice net',
  ],
  [
    'the tax of a vendor invoice',
    'UPDATE vendor_invoice SET tax = tax + 1, total = total + 1 LIMIT 1',
    'vendor invoice tax',
  ],
  [
    'the received cost that a vendor invoice clears',
    'UPDATE vendor_invoice_line SET received_cost = received_cost + 1 LIMIT 1',
    'posted: VI',
  ],
  [
    'the net of a credit note',
    "UPDATE credit_note SET net = net + 1, total = total + 1 WHERE kind <> 'rebate' LIMIT 1",
    'credit note net',
  ],
  [
    'the customer of an invoice',
    'UPDATE customer_invoice SET customer_id = customer_id + 1 WHERE order_id IS NOT NULL LIMIT 1',
    'invoice of another customer',
  ],
  [
    'the currency of an invoice',
    "UPDATE customer_invoice SET currency = 'USD' WHERE order_id IS NOT NULL LIMIT 1",
    'in another currency',
  ],
  [
    'the vendor of a vendor invoice',
    'UPDATE vendor_invoice SET vendor_id = vendor_id + 1 LIMIT 1',
    'vendor invoice of another vendor',
  ],
  [
    'a shipment invoiced twice',
    'INSERT INTO customer_invoice_line (company_id, invoice_id, shipment_line_id, order_line_id, quantity, unit_price, net, tax_code_id, tax_rate) SELECT company_id, invoice_id, shipment_line_id, order_line_id, quantity, unit_price, net, tax_code_id, tax_rate FROM customer_invoice_line WHERE shipment_line_id IS NOT NULL LIMIT 1',
    'shipment line invoiced',
  ],
  [
    'a receipt invoiced twice',
    'INSERT INTO vendor_invoice_line (company_id, invoice_id, receipt_line_id, purchase_line_id, quantity, unit_price, net, received_cost, tax_code_id, tax_rate) SELECT company_id, invoice_id, receipt_line_id, purchase_line_id, quantity, unit_price, net, received_cost, tax_code_id, tax_rate FROM vendor_invoice_line LIMIT 1',
    'receipt line invoiced',
  ],
  [
    'an open item larger than its invoice',
    'UPDATE open_item SET amount = amount + 1 WHERE customer_invoice_id IS NOT NULL LIMIT 1',
    'open item of a customer invoice',
  ],
  [
    'an open item of somebody else',
    'UPDATE open_item SET vendor_id = vendor_id + 1 WHERE vendor_invoice_id IS NOT NULL LIMIT 1',
    'open item of a vendor invoice',
  ],
  [
    'an open item that is not there',
    'DELETE FROM open_item WHERE settled = 0 AND customer_invoice_id IS NOT NULL LIMIT 1',
    'open item of a customer invoice',
  ],
  [
    'what is settled of an open item',
    'UPDATE open_item SET settled = settled + 1 WHERE amount > settled + 1 LIMIT 1',
    'open item settled',
  ],
  ['a payment', 'UPDATE payment SET amount = amount + 1 LIMIT 1', 'own amount of a payment'],
  ['the currency of a payment', "UPDATE payment SET currency = 'USD' LIMIT 1", 'payment in another currency'],
  ['a payment that is not there', 'DELETE FROM payment LIMIT 1', 'numbers PY taken'],
  ['what was drawn of a prepayment', 'UPDATE prepayment SET drawn = drawn + 1 LIMIT 1', 'prepayment drawn'],
  ['a prepayment', 'UPDATE prepayment SET amount = amount + 1 LIMIT 1', 'own amount of a prepayment'],
  // Stock put right.
  [
    'an adjustment taken back by another of another size',
    `INSERT INTO journal (company_id, number, posted_on, document_kind, document_id, reason, reverses_id)
       SELECT company_id, 'JR-X', posted_on, 'JR', 0, 'found', id FROM journal WHERE reason <> '' LIMIT 1`,
    'adjustment taken back',
  ],
  [
    'a stock entry of an adjustment',
    `UPDATE stock_entry e JOIN journal j ON j.id = e.document_id AND e.document_kind = 'JR' AND j.reason <> ''
        SET e.cost = e.cost - 1`,
    'posted: JR',
  ],
  // Goods under way.
  [
    'what arrived of goods under way',
    'UPDATE carriage SET arrived = arrived + 0.5 WHERE open LIMIT 1',
    'arrived of goods under way',
  ],
  ['goods that never left', 'UPDATE carriage SET taken_back = TRUE WHERE open LIMIT 1', 'goods that never left'],
  ['stock under way', 'UPDATE stock SET on_hand = on_hand + 1 WHERE location_id = 32767 LIMIT 1', 'goods under way'],
  // Two currencies.
  [
    'what a payment was worth',
    "UPDATE payment SET own_amount = own_amount + 1 WHERE currency <> 'MYR' LIMIT 1",
    'posted: PY',
  ],
  [
    'what a payment settled',
    'UPDATE payment SET own_settled = own_settled + 1 LIMIT 1',
    'open item settled in the company',
  ],
  [
    'what a prepayment was worth',
    'UPDATE prepayment SET own_amount = own_amount + 1 WHERE carried_from IS NULL LIMIT 1',
    'posted: PP',
  ],
  [
    'what was used of a prepayment',
    'UPDATE prepayment SET own_used = own_used + 1 LIMIT 1',
    'prepayment used in the company',
  ],
  [
    'what a draw left of a prepayment',
    'UPDATE prepayment_move SET own_amount = own_amount + 1 LIMIT 1',
    'prepayment used in the company',
  ],
  [
    'what a draw was worth of an invoice',
    "UPDATE prepayment_move SET own_worth = own_worth + 1 WHERE kind = 'drawn' LIMIT 1",
    'open item settled in the company',
  ],
  ...['customer_invoice', 'vendor_invoice', 'credit_note'].flatMap((table): [string, string, string][] => [
    [
      `the net of a ${table} in the company’s currency`,
      `UPDATE ${table} SET own_net = own_net + 1 LIMIT 1`,
      `own net of a ${table.replace('_', ' ')}`,
    ],
    [
      `the tax of a ${table} in the company’s currency`,
      `UPDATE ${table} SET own_tax = own_tax + 1 LIMIT 1`,
      `own tax of a ${table.replace('_', ' ')}`,
    ],
    [
      `the rate of a ${table} in our own currency`,
      `UPDATE ${table} SET rate = 2 WHERE currency = 'MYR' LIMIT 1`,
      `rate of a ${table.replace('_', ' ')}`,
    ],
  ]),
  [
    'the rate of a receipt',
    'UPDATE receipt SET rate = rate + 0.1 WHERE rate <> 1 LIMIT 1',
    'cost of a receipt line at its rate',
  ],
  [
    'the rate of a receipt in our own currency',
    'UPDATE receipt SET rate = 2 WHERE rate = 1 LIMIT 1',
    'rate of a receipt',
  ],
  [
    'what a receipt line came to',
    'UPDATE receipt_line SET value = value + 1 LIMIT 1',
    'cost of a receipt line at its rate',
  ],
  [
    'the amount of an entry in its document’s currency',
    'UPDATE journal_entry SET foreign_amount = foreign_amount + 1 WHERE currency IS NOT NULL LIMIT 1',
    'posted in the currency of the document',
  ],
  [
    'the currency of an entry',
    "UPDATE journal_entry SET currency = 'EUR' WHERE currency IS NOT NULL LIMIT 1",
    'currency of an entry',
  ],
  [
    'an entry told in a currency its document is not in',
    "UPDATE journal_entry SET currency = 'EUR', foreign_amount = amount WHERE currency IS NULL LIMIT 1",
    'currency of an entry',
  ],
  [
    'entries without their document’s currency',
    `UPDATE journal_entry e JOIN account a ON a.id = e.account_id AND a.posting_role = 'payable'
        SET e.currency = NULL, e.foreign_amount = NULL WHERE e.currency IS NOT NULL`,
    'currency of an entry',
  ],
  [
    'an exchange difference',
    "UPDATE journal_entry e JOIN account a ON a.id = e.account_id SET e.amount = e.amount + 1 WHERE a.posting_role = 'exchange-difference'",
    'to exchange-difference',
  ],
  [
    'an open item in the company’s currency',
    'UPDATE open_item SET own_amount = own_amount + 1 LIMIT 1',
    'open item in the company',
  ],
  [
    'an open item settled whole in one currency',
    'UPDATE open_item SET own_settled = own_settled - 1 WHERE settled = amount LIMIT 1',
    'open item open in one currency',
  ],
  ...(['credit', 'invoice'] as const).map((end): [string, string, string] => [
    `what a set-off took of the ${end}`,
    `UPDATE set_off SET own_${end} = own_${end} + 1 LIMIT 1`,
    'open item settled in the company',
  ]),
  [
    'the price difference of a vendor invoice',
    'UPDATE vendor_invoice_line SET price_difference = price_difference + 1 LIMIT 1',
    'price difference of a vendor invoice line',
  ],
  ...(['cost', 'value'] as const).map((of): [string, string, string] => [
    `the ${of} a vendor invoice clears`,
    `UPDATE vendor_invoice_line SET received_${of} = received_${of} + 1 LIMIT 1`,
    `${of} cleared of a receipt line`,
  ]),
  [
    'what is owed of a rebate in the company’s currency',
    "UPDATE agreement SET rebate_own = rebate_own + 1 WHERE rebate_kind <> 'none' LIMIT 1",
    'agreement rebate in the company',
  ],
  [
    'a rebate owed in one currency alone',
    'UPDATE agreement SET rebate_accrued = rebate_settled WHERE rebate_own <> 0 LIMIT 1',
    'rebate that is owed in one currency',
  ],
  [
    'what a rebate accrued in the company’s currency',
    'UPDATE rebate_entry SET own_accrued = own_accrued + 1 WHERE settled = 0 LIMIT 1',
    'to rebates-owed',
  ],
  // Agreements.
  [
    'released of an agreement',
    'UPDATE agreement_line SET released = released + 1 WHERE released > 0 LIMIT 1',
    'agreement line released',
  ],
  [
    'shipped value of an agreement',
    'UPDATE agreement_line SET shipped_value = shipped_value + 1 WHERE shipped > 0 LIMIT 1',
    'agreement line shipped value',
  ],
  [
    'invoiced of an agreement',
    'UPDATE agreement_line SET invoiced = invoiced - 1 WHERE invoiced > 0 LIMIT 1',
    'agreement line invoiced',
  ],
  [
    'the sum of an agreement',
    'UPDATE agreement SET released_value = released_value + 1 WHERE released_value > 0 LIMIT 1',
    'agreement released value',
  ],
  [
    'what is accrued of a rebate',
    'UPDATE agreement SET rebate_accrued = rebate_accrued + 1 WHERE rebate_accrued > 0 LIMIT 1',
    'agreement rebate accrued',
  ],
  // Promises.
  [
    'what planned orders bring',
    'UPDATE planned_component SET covered = covered - 1 WHERE covered > 0 LIMIT 1',
    'planned component covered',
  ],
  [
    'the minutes of an operation',
    'UPDATE planned_operation SET minutes = minutes + 1 LIMIT 1',
    'minutes a work centre holds',
  ],
  ['a hold that is not there', 'DELETE FROM centre_hold LIMIT 1', 'minutes a work centre holds'],
  ['a hold on another day', 'UPDATE centre_hold SET day = day + INTERVAL 90 DAY LIMIT 1', 'days of an operation'],
  [
    'a hold of another centre',
    'UPDATE centre_hold h JOIN work_centre w ON w.id <> h.work_centre_id SET h.work_centre_id = w.id WHERE w.id = (SELECT MAX(id) FROM work_centre)',
    'work centre that an operation holds',
  ],
  // Work.
  ['what was made', 'UPDATE planned_order SET finished = finished - 1 WHERE finished > 0 LIMIT 1', 'pieces made'],
  [
    'what was lost',
    'UPDATE planned_order SET scrapped = scrapped + 1 WHERE quantity > finished LIMIT 1',
    'pieces lost',
  ],
  [
    'what is in work',
    "UPDATE planned_order SET in_work = in_work + 1 WHERE state = 'running' LIMIT 1",
    'work in progress of an order',
  ],
  [
    'what is in work of what is over',
    "UPDATE planned_order SET in_work = in_work + 1 WHERE state = 'finished' LIMIT 1",
    'work in progress of what is over',
  ],
  [
    'the account of what is in work',
    "UPDATE planned_order SET in_work = in_work + 1 WHERE state = 'running' LIMIT 1",
    'work in progress account against orders',
  ],
  ['a component used', 'UPDATE planned_component SET used = used + 1 WHERE used > 0 LIMIT 1', 'component used'],
  [
    'pieces through an operation',
    'UPDATE planned_operation SET done = done - 1 WHERE done > 0 ORDER BY no DESC LIMIT 1',
    'pieces through an operation',
  ],
  [
    'pieces through out of turn',
    'UPDATE planned_operation SET done = done - 2 WHERE done > 1 ORDER BY no LIMIT 1',
    'pieces that passed an operation before the one before it',
  ],
  [
    'pieces lost at an operation',
    'UPDATE planned_operation SET scrapped = scrapped + 1 WHERE done > 0 LIMIT 1',
    'pieces lost at an operation',
  ],
  [
    'minutes worked',
    'UPDATE planned_operation SET minutes_done = minutes_done + 1 WHERE done > 0 LIMIT 1',
    'minutes of an operation',
  ],
  [
    'the cost of what a report used',
    'UPDATE work_report_component SET cost = cost + 1 LIMIT 1',
    'material of a work report',
  ],
  ['the cost of work reported', 'UPDATE work_report_operation SET cost = cost + 1 LIMIT 1', 'labour of a work report'],
  [
    'pieces a report lost',
    'UPDATE work_report_operation SET scrapped = scrapped + 1 LIMIT 1',
    'pieces a work report lost',
  ],
  [
    'what an order is reckoned at',
    'UPDATE planned_order SET planned_cost = planned_cost + 1 WHERE planned_cost IS NOT NULL LIMIT 1',
    'cost an order is reckoned at',
  ],
  [
    'what was made for a line',
    'UPDATE planned_tie SET made = made - 1 WHERE made > 0 LIMIT 1',
    'made for an order line',
  ],
  [
    'what of an order is for somebody',
    'UPDATE planned_order SET held = held - 1 WHERE held > 0 AND parent_id IS NULL LIMIT 1',
    'what of an order is for somebody',
  ],
  [
    'more made for lines than was made',
    'UPDATE planned_tie SET quantity = quantity + 9, made = made + 9 WHERE made > 0 LIMIT 1',
    'made for the lines of an order',
  ],
  ['a report taken back in part', 'UPDATE work_report SET reverses_id = 1 WHERE id = 2', 'work report taken back'],
  // Counts.
  [
    'a difference of a count that is not posted',
    "UPDATE count_line l JOIN count_sheet s ON s.id = l.count_sheet_id SET l.difference = 1 WHERE s.state = 'open'",
    'difference of a count that is not posted',
  ],
  [
    'a count taken back in part',
    `UPDATE count_line SET difference = 2 ORDER BY id LIMIT 1;
     INSERT INTO count_sheet (company_id, number, location_id, state, made_by, reverses_id)
       SELECT company_id, 'CT-9999', location_id, 'posted', made_by, id FROM count_sheet ORDER BY id LIMIT 1`,
    'count taken back',
  ],
  // Pieces with numbers of their own.
  [
    'a piece elsewhere than it came',
    "UPDATE serial SET place = 'out' WHERE place = 'ours' LIMIT 1",
    'serial number against its life',
  ],
  [
    'a piece at another place',
    "UPDATE serial SET location_id = 1 - location_id WHERE place = 'ours' AND location_id < 2 LIMIT 1",
    'serial number at another place than it last came to',
  ],
  [
    'a piece born otherwise',
    'UPDATE serial SET born_id = born_id + 9 LIMIT 1',
    'serial number that came with another document',
  ],
  [
    'a piece too many here',
    `INSERT INTO serial (company_id, item_id, number, place, location_id, born_kind, born_id, born_on)
       SELECT company_id, item_id, 'ONE-MORE', 'ours', location_id, 'JR', 1, born_on FROM serial WHERE place = 'ours' LIMIT 1`,
    'serial numbers here against stock',
  ],
  [
    'a document that moved a piece too many',
    `INSERT INTO serial_entry (company_id, serial_id, document_kind, document_id, location_id, quantity, posted_on)
       SELECT company_id, serial_id, document_kind, document_id, location_id, 1, posted_on FROM serial_entry LIMIT 1`,
    'serial numbers of a document against what it moved',
  ],
  [
    'a part of what is not its order’s',
    `UPDATE serial_part SET product_id = part_id LIMIT 1`,
    'serial number of a part',
  ],
  [
    'a piece used in no order',
    "UPDATE serial SET planned_order_id = NULL WHERE place = 'used' LIMIT 1",
    'serial number used in no order',
  ],
  [
    'a piece at a customer for no line',
    "UPDATE serial SET order_line_id = NULL WHERE place = 'customer' LIMIT 1",
    'serial number at a customer without an order line',
  ],
  // Numbers.
  ...(
    [
      ['SO', 'sales_order'],
      ['RC', 'receipt'],
      ['JR', 'journal'],
    ] as const
  ).map(([kind]): [string, string, string] => [
    `a gap in the numbers ${kind}`,
    `UPDATE number_series SET next_serial = next_serial + 1 WHERE kind = '${kind}'`,
    `numbers ${kind} taken`,
  ]),
];

describe('verifying', () => {
  let database: Database;
  let drop: () => Promise<void>;
  beforeAll(async () => {
    const made = await copyOfTemplate('demo', async (from) => {
      await migrate(from, 'server/db/sql');
      const laid = connect(from, 4);
      await layDemo(laid, { seed: 7, moreOrders: 0, workDate: '2027-03-01', fixed: true });
      await laid.close();
      return '';
    });
    drop = made.drop;
    database = connect(made.url, 2);
    // The demo takes nothing back for its price.
    const lines = await database.rows<{
      companyId: number;
      invoiceId: number;
      id: number;
      unitPrice: string;
      day: Day;
    }>(
      `SELECT l.company_id, l.invoice_id, l.id, l.unit_price, c.work_date AS day
         FROM customer_invoice_line l JOIN company c ON c.id = l.company_id
        WHERE l.id IN (SELECT MAX(x.id) FROM customer_invoice_line x
                         JOIN customer_invoice i ON i.company_id = x.company_id AND i.id = x.invoice_id
                        WHERE x.shipment_line_id IS NOT NULL AND x.unit_price > 2 GROUP BY i.currency)`,
    );
    const [person] = await database.rows<{ id: number }>('SELECT MIN(id) AS id FROM person');
    for (const { companyId, invoiceId, id, unitPrice, day } of lines) {
      await new Actor(database, companyId, person!.id, `verify ${id}`).does(
        'creditInvoice',
        {
          invoiceId,
          kind: 'price',
          reason: 'dearer than agreed',
          lines: [{ invoiceLineId: id, quantity: '', unitPrice: dec(unitPrice).minus(1).toFixed() }],
        },
        day,
      );
    }
    // What is written once is kept from being written over: whoever owns the database can still.
    const triggers = await database.rows<{ name: string }>(
      'SELECT TRIGGER_NAME AS name FROM information_schema.TRIGGERS WHERE TRIGGER_SCHEMA = DATABASE()',
    );
    for (const { name } of triggers) await database.run(`DROP TRIGGER ${name}`);
  });
  afterAll(async () => {
    await database.close();
    await drop();
  });

  class Undo extends Error {}
  /** What is found with a statement done, which is taken back after. Seals are left out: they tell only that something was. */
  const foundWith = async (statement: string): Promise<{ changed: number; found: string[] }> => {
    let answer = { changed: 0, found: [] as string[] };
    await database
      .transaction(async (tx) => {
        await tx.run('SET SESSION foreign_key_checks = 0, check_constraint_checks = 0, unique_checks = 0');
        const changed = await tx.run(statement);
        answer = {
          changed,
          found: (await verify(tx)).filter((each) => !each.startsWith('seal')),
        };
        throw new Undo();
      })
      .catch((error: unknown) => {
        if (!(error instanceof Undo)) throw error;
      });
    return answer;
  };

  it('finds nothing in the demo', async () => expect(await verify(database)).toEqual([]));

  it.each(PLANTED)('finds %s', async (_what, statement, said) => {
    const { changed, found } = await foundWith(statement);
    expect(changed).toBeGreaterThan(0);
    expect(found.filter((each) => each.includes(said))).not.toEqual([]);
  });
});
