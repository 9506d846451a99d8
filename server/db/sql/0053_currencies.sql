-- Documents in another currency are posted in the company's own at the rate of their day; both amounts are kept. (P8)
-- What was posted before was posted one for one, and stays so.
ALTER TABLE exchange_rate
  ADD COLUMN IF NOT EXISTS id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  ADD UNIQUE KEY IF NOT EXISTS exchange_rate_id (id);

-- An entry of a document in another currency: its amount there; none for what is only the company's.
ALTER TABLE journal_entry
  ADD COLUMN IF NOT EXISTS currency CHAR(3) NULL,
  ADD COLUMN IF NOT EXISTS foreign_amount DECIMAL(18,4) NULL,
  ADD CONSTRAINT IF NOT EXISTS journal_entry_foreign CHECK ((currency IS NULL) = (foreign_amount IS NULL));

ALTER TABLE receipt
  ADD COLUMN IF NOT EXISTS rate DECIMAL(18,8) NOT NULL DEFAULT 1;
-- What it came to in the currency of its purchase order.
ALTER TABLE receipt_line
  ADD COLUMN IF NOT EXISTS value DECIMAL(18,4) NOT NULL DEFAULT (cost);

ALTER TABLE customer_invoice
  ADD COLUMN IF NOT EXISTS rate DECIMAL(18,8) NOT NULL DEFAULT 1,
  ADD COLUMN IF NOT EXISTS own_net DECIMAL(18,4) NOT NULL DEFAULT (net),
  ADD COLUMN IF NOT EXISTS own_tax DECIMAL(18,4) NOT NULL DEFAULT (tax);
ALTER TABLE credit_note
  ADD COLUMN IF NOT EXISTS rate DECIMAL(18,8) NOT NULL DEFAULT 1,
  ADD COLUMN IF NOT EXISTS own_net DECIMAL(18,4) NOT NULL DEFAULT (net),
  ADD COLUMN IF NOT EXISTS own_tax DECIMAL(18,4) NOT NULL DEFAULT (tax);
ALTER TABLE vendor_invoice
  ADD COLUMN IF NOT EXISTS rate DECIMAL(18,8) NOT NULL DEFAULT 1,
  ADD COLUMN IF NOT EXISTS own_net DECIMAL(18,4) NOT NULL DEFAULT (net),
  ADD COLUMN IF NOT EXISTS own_tax DECIMAL(18,4) NOT NULL DEFAULT (tax);
-- What it clears of the receipt in the purchase's currency, and what of the difference is the price's.
ALTER TABLE vendor_invoice_line
  ADD COLUMN IF NOT EXISTS received_value DECIMAL(18,4) NOT NULL DEFAULT (received_cost),
  ADD COLUMN IF NOT EXISTS price_difference DECIMAL(18,4) NOT NULL DEFAULT (net - received_cost);

ALTER TABLE open_item
  ADD COLUMN IF NOT EXISTS own_amount DECIMAL(18,4) NOT NULL DEFAULT (amount),
  ADD COLUMN IF NOT EXISTS own_settled DECIMAL(18,4) NOT NULL DEFAULT (settled);
-- What was paid in the company's currency, and what of the open item in it that settled.
ALTER TABLE payment
  ADD COLUMN IF NOT EXISTS rate DECIMAL(18,8) NOT NULL DEFAULT 1,
  ADD COLUMN IF NOT EXISTS own_amount DECIMAL(18,4) NOT NULL DEFAULT (amount),
  ADD COLUMN IF NOT EXISTS own_settled DECIMAL(18,4) NOT NULL DEFAULT (amount);
ALTER TABLE set_off
  ADD COLUMN IF NOT EXISTS own_credit DECIMAL(18,4) NOT NULL DEFAULT (amount),
  ADD COLUMN IF NOT EXISTS own_invoice DECIMAL(18,4) NOT NULL DEFAULT (amount);

ALTER TABLE prepayment
  ADD COLUMN IF NOT EXISTS rate DECIMAL(18,8) NOT NULL DEFAULT 1,
  ADD COLUMN IF NOT EXISTS own_amount DECIMAL(18,4) NOT NULL DEFAULT (amount),
  ADD COLUMN IF NOT EXISTS own_used DECIMAL(18,4) NOT NULL DEFAULT (drawn + returned + carried);
-- What left the prepayment, and what that was worth where it went: of an invoice's open item, or paid back.
ALTER TABLE prepayment_move
  ADD COLUMN IF NOT EXISTS own_amount DECIMAL(18,4) NOT NULL DEFAULT (amount),
  ADD COLUMN IF NOT EXISTS own_worth DECIMAL(18,4) NOT NULL DEFAULT (amount);

ALTER TABLE agreement
  ADD COLUMN IF NOT EXISTS rebate_own DECIMAL(18,4) NOT NULL DEFAULT (rebate_accrued - rebate_settled);
ALTER TABLE rebate_entry
  ADD COLUMN IF NOT EXISTS own_accrued DECIMAL(18,4) NOT NULL DEFAULT (accrued),
  ADD COLUMN IF NOT EXISTS own_settled DECIMAL(18,4) NOT NULL DEFAULT (settled);

-- Exchange differences have an account of their own.
INSERT INTO account (company_id, code, name, posting_role)
SELECT c.id, '5300', 'Exchange differences', 'exchange-difference' FROM company c
 WHERE NOT EXISTS (SELECT 1 FROM account a WHERE a.company_id = c.id AND a.posting_role = 'exchange-difference');
