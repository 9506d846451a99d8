-- Rebates of agreements, and credit notes: goods that came back, prices put right, rebates settled. (A10, P1, P3)

ALTER TABLE agreement
  ADD COLUMN IF NOT EXISTS rebate_kind ENUM('none','whole','step') NOT NULL DEFAULT 'none',
  ADD COLUMN IF NOT EXISTS rebate_by ENUM('value','quantity') NOT NULL DEFAULT 'value',
  -- What the rebate is reckoned from and what it came to: kept by the acts, proven by verify.
  ADD COLUMN IF NOT EXISTS rebate_value DECIMAL(18,4) NOT NULL DEFAULT 0,
  ADD COLUMN IF NOT EXISTS rebate_quantity DECIMAL(18,5) NOT NULL DEFAULT 0,
  ADD COLUMN IF NOT EXISTS rebate_accrued DECIMAL(18,4) NOT NULL DEFAULT 0,
  ADD COLUMN IF NOT EXISTS rebate_settled DECIMAL(18,4) NOT NULL DEFAULT 0;

CREATE TABLE IF NOT EXISTS agreement_rebate_tier (
  company_id SMALLINT UNSIGNED NOT NULL,
  agreement_id INT UNSIGNED NOT NULL,
  from_amount DECIMAL(18,5) NOT NULL CHECK (from_amount >= 0),
  -- Per cent of value, or an amount for each unit.
  rate DECIMAL(14,4) NOT NULL CHECK (rate > 0),
  PRIMARY KEY (company_id, agreement_id, from_amount),
  FOREIGN KEY (company_id, agreement_id) REFERENCES agreement (company_id, id)
);

-- What each invoice, credit note, revision and settlement did to a rebate. Written once.
CREATE TABLE IF NOT EXISTS rebate_entry (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  agreement_id INT UNSIGNED NOT NULL,
  document_kind CHAR(2) NOT NULL,
  document_id INT UNSIGNED NOT NULL,
  posted_on DATE NOT NULL,
  value DECIMAL(18,4) NOT NULL DEFAULT 0,
  quantity DECIMAL(18,5) NOT NULL DEFAULT 0,
  accrued DECIMAL(18,4) NOT NULL DEFAULT 0,
  settled DECIMAL(18,4) NOT NULL DEFAULT 0,
  PRIMARY KEY (company_id, id),
  KEY rebate_entry_id (id),
  -- Serves the rebate of one agreement, entry by entry.
  KEY rebate_entry_agreement (company_id, agreement_id, id),
  FOREIGN KEY (company_id, agreement_id) REFERENCES agreement (company_id, id)
);

CREATE TABLE IF NOT EXISTS credit_note (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  kind ENUM('return','price','rebate') NOT NULL,
  customer_id INT UNSIGNED NOT NULL,
  -- The invoice it is against; NULL for a rebate.
  customer_invoice_id INT UNSIGNED NULL,
  order_id INT UNSIGNED NULL,
  -- The agreement whose rebate it settles.
  agreement_id INT UNSIGNED NULL,
  currency CHAR(3) NOT NULL,
  credit_date DATE NOT NULL,
  reason VARCHAR(200) NOT NULL DEFAULT '',
  net DECIMAL(18,4) NOT NULL,
  tax DECIMAL(18,4) NOT NULL,
  total DECIMAL(18,4) NOT NULL,
  cost DECIMAL(18,4) NOT NULL DEFAULT 0,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, id),
  KEY credit_note_id (id),
  UNIQUE KEY credit_note_number (company_id, number),
  KEY credit_note_customer (company_id, customer_id),
  KEY credit_note_invoice (company_id, customer_invoice_id),
  KEY credit_note_order (company_id, order_id),
  KEY credit_note_agreement (company_id, agreement_id),
  FOREIGN KEY (company_id, customer_id) REFERENCES customer (company_id, id),
  FOREIGN KEY (company_id, customer_invoice_id) REFERENCES customer_invoice (company_id, id),
  FOREIGN KEY (company_id, order_id) REFERENCES sales_order (company_id, id),
  FOREIGN KEY (company_id, agreement_id) REFERENCES agreement (company_id, id),
  CONSTRAINT credit_note_total CHECK (total = net + tax AND net > 0),
  CONSTRAINT credit_note_against CHECK (
    (kind = 'rebate') = (agreement_id IS NOT NULL) AND (kind <> 'rebate') = (customer_invoice_id IS NOT NULL)
  )
);

CREATE TABLE IF NOT EXISTS credit_note_line (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  credit_note_id INT UNSIGNED NOT NULL,
  invoice_line_id INT UNSIGNED NOT NULL,
  order_line_id INT UNSIGNED NOT NULL,
  -- What came back; 0 where only the price is put right.
  quantity DECIMAL(18,5) NOT NULL CHECK (quantity >= 0),
  -- Credited for each unit.
  unit_price DECIMAL(14,4) NOT NULL,
  net DECIMAL(18,4) NOT NULL,
  -- What of it counts against the line's agreement where that is not the whole.
  agreed_net DECIMAL(18,4) NULL,
  -- Of goods that came back: what their shipment was worth, and what they cost.
  value DECIMAL(18,4) NOT NULL DEFAULT 0,
  agreed_value DECIMAL(18,4) NULL,
  cost DECIMAL(18,4) NOT NULL DEFAULT 0,
  tax_code_id INT UNSIGNED NOT NULL,
  tax_rate DECIMAL(5,2) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY credit_note_line_id (id),
  KEY credit_note_line_note (company_id, credit_note_id),
  KEY credit_note_line_invoice (company_id, invoice_line_id),
  KEY credit_note_line_order (company_id, order_line_id),
  FOREIGN KEY (company_id, credit_note_id) REFERENCES credit_note (company_id, id),
  FOREIGN KEY (company_id, invoice_line_id) REFERENCES customer_invoice_line (company_id, id),
  FOREIGN KEY (company_id, order_line_id) REFERENCES sales_order_line (company_id, id),
  FOREIGN KEY (company_id, tax_code_id) REFERENCES tax_code (company_id, id)
);

-- What a credit note leaves owed to a customer stands below zero.
ALTER TABLE open_item
  ADD COLUMN IF NOT EXISTS credit_note_id INT UNSIGNED NULL,
  ADD UNIQUE KEY IF NOT EXISTS open_item_credit_note (company_id, credit_note_id),
  ADD CONSTRAINT open_item_of_credit_note FOREIGN KEY IF NOT EXISTS (company_id, credit_note_id)
    REFERENCES credit_note (company_id, id),
  DROP CONSTRAINT IF EXISTS open_item_side,
  DROP CONSTRAINT IF EXISTS open_item_settled;

ALTER TABLE open_item
  ADD CONSTRAINT IF NOT EXISTS open_item_of CHECK (
    (customer_id IS NOT NULL AND vendor_id IS NULL AND (customer_invoice_id IS NULL) <> (credit_note_id IS NULL))
    OR (vendor_id IS NOT NULL AND customer_id IS NULL AND vendor_invoice_id IS NOT NULL)
  ),
  ADD CONSTRAINT IF NOT EXISTS open_item_within CHECK (
    (amount >= 0 AND settled >= 0 AND settled <= amount) OR (amount < 0 AND settled <= 0 AND settled >= amount)
  );

-- A credit set off against an invoice: settles part of both. Written once.
CREATE TABLE IF NOT EXISTS set_off (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  credit_item_id INT UNSIGNED NOT NULL,
  invoice_item_id INT UNSIGNED NOT NULL,
  amount DECIMAL(18,4) NOT NULL CHECK (amount > 0),
  set_on DATE NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY set_off_id (id),
  KEY set_off_credit (company_id, credit_item_id),
  KEY set_off_invoice (company_id, invoice_item_id),
  FOREIGN KEY (company_id, credit_item_id) REFERENCES open_item (company_id, id),
  FOREIGN KEY (company_id, invoice_item_id) REFERENCES open_item (company_id, id)
);

-- A drop shipped line may be closed short while its purchase stays tied: what it was tied for stays true.
ALTER TABLE sales_order_line DROP CONSTRAINT IF EXISTS sales_order_line_counts;
ALTER TABLE sales_order_line
  ADD CONSTRAINT IF NOT EXISTS sales_order_line_within CHECK (
    cancelled >= 0 AND cancelled <= quantity
    AND tied >= 0 AND tied <= quantity
    AND shipped >= 0 AND shipped <= quantity - cancelled
    AND invoiced >= 0 AND invoiced <= shipped
  );

CREATE OR REPLACE TRIGGER credit_note_no_update BEFORE UPDATE ON credit_note FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'credit_note is written once';
CREATE OR REPLACE TRIGGER credit_note_no_delete BEFORE DELETE ON credit_note FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'credit_note is written once';
CREATE OR REPLACE TRIGGER credit_note_line_no_update BEFORE UPDATE ON credit_note_line FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'credit_note_line is written once';
CREATE OR REPLACE TRIGGER credit_note_line_no_delete BEFORE DELETE ON credit_note_line FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'credit_note_line is written once';
CREATE OR REPLACE TRIGGER rebate_entry_no_update BEFORE UPDATE ON rebate_entry FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'rebate_entry is written once';
CREATE OR REPLACE TRIGGER rebate_entry_no_delete BEFORE DELETE ON rebate_entry FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'rebate_entry is written once';
CREATE OR REPLACE TRIGGER set_off_no_update BEFORE UPDATE ON set_off FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'set_off is written once';
CREATE OR REPLACE TRIGGER set_off_no_delete BEFORE DELETE ON set_off FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'set_off is written once';

-- Accounts for rebates and prepayments in companies that are there already. (P3)
INSERT INTO account (company_id, code, name, posting_role)
SELECT c.id, r.code, r.name, r.role FROM company c
  JOIN (SELECT '2300' AS code, 'Rebates owed' AS name, 'rebates-owed' AS role
        UNION ALL SELECT '2400', 'Customer prepayments', 'customer-prepayments'
        UNION ALL SELECT '4100', 'Rebates given', 'rebates-given') r
 WHERE NOT EXISTS (SELECT 1 FROM account a WHERE a.company_id = c.id AND a.posting_role = r.role);
