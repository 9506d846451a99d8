-- Counter and till: slips, drawers, card payments, deposits, bar codes. (C1 to C7)

ALTER TABLE company
  -- Who buys at the counter where nobody in particular does.
  ADD COLUMN IF NOT EXISTS counter_customer_id INT UNSIGNED NULL,
  -- For how many days goods bought there are taken back.
  ADD COLUMN IF NOT EXISTS return_days SMALLINT UNSIGNED NOT NULL DEFAULT 14;

-- Who of a customer it is for: what they may be sold is theirs.
ALTER TABLE sales_order
  ADD COLUMN IF NOT EXISTS contact_id INT UNSIGNED NULL,
  -- Kept at the counter, to be paid at the till; NULL for every other order.
  ADD COLUMN IF NOT EXISTS counter_day DATE NULL,
  -- Serves "what waits at the till", newest first.
  ADD KEY IF NOT EXISTS sales_order_counter (company_id, counter_day, id),
  ADD CONSTRAINT sales_order_contact FOREIGN KEY IF NOT EXISTS (company_id, contact_id) REFERENCES contact (company_id, id);

-- A permit of one person, or (NULL) of the customer as a whole. (C1 S5)
ALTER TABLE permit
  ADD COLUMN IF NOT EXISTS contact_id INT UNSIGNED NULL,
  ADD CONSTRAINT permit_contact FOREIGN KEY IF NOT EXISTS (company_id, contact_id) REFERENCES contact (company_id, id);

-- Bar codes of items, each of so many of the item's own unit. (C7)
CREATE TABLE IF NOT EXISTS item_bar_code (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  item_id INT UNSIGNED NOT NULL,
  -- A GTIN as 14 digits.
  code CHAR(14) NOT NULL,
  quantity DECIMAL(18,5) NOT NULL DEFAULT 1 CHECK (quantity > 0),
  PRIMARY KEY (company_id, id),
  KEY item_bar_code_id (id),
  UNIQUE KEY item_bar_code_code (company_id, code),
  KEY item_bar_code_item (company_id, item_id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id)
);

CREATE TABLE IF NOT EXISTS till (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  name VARCHAR(40) NOT NULL,
  -- Where what it sells is taken from.
  location_id SMALLINT UNSIGNED NOT NULL DEFAULT 0,
  PRIMARY KEY (company_id, id),
  KEY till_id (id),
  UNIQUE KEY till_name (company_id, name),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

CREATE TABLE IF NOT EXISTS drawer (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  version INT UNSIGNED NOT NULL DEFAULT 1,
  till_id INT UNSIGNED NOT NULL,
  opened_by INT UNSIGNED NOT NULL,
  opened_on DATE NOT NULL,
  opened_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  put_in DECIMAL(18,4) NOT NULL CHECK (put_in >= 0),
  -- Kept by the acts, proven by verify: what must be in it now.
  cash DECIMAL(18,4) NOT NULL CHECK (cash >= 0),
  closed_by INT UNSIGNED NULL,
  closed_on DATE NULL,
  counted DECIMAL(18,4) NULL,
  -- Why it is not what it should be, where it is not.
  reason VARCHAR(120) NOT NULL DEFAULT '',
  -- One open drawer a till.
  open_till INT UNSIGNED AS (IF(closed_on IS NULL, till_id, NULL)) PERSISTENT,
  PRIMARY KEY (company_id, id),
  KEY drawer_id (id),
  UNIQUE KEY drawer_number (company_id, number),
  UNIQUE KEY drawer_open (company_id, open_till),
  KEY drawer_till (company_id, till_id, id),
  FOREIGN KEY (company_id, till_id) REFERENCES till (company_id, id),
  FOREIGN KEY (opened_by) REFERENCES person (id),
  FOREIGN KEY (closed_by) REFERENCES person (id),
  CONSTRAINT drawer_closed CHECK ((closed_on IS NULL) = (counted IS NULL) AND (closed_on IS NULL) = (closed_by IS NULL))
);

-- Notes and coins as they were counted. Written once.
CREATE TABLE IF NOT EXISTS drawer_count (
  company_id SMALLINT UNSIGNED NOT NULL,
  drawer_id INT UNSIGNED NOT NULL,
  piece DECIMAL(18,4) NOT NULL CHECK (piece > 0),
  count INT UNSIGNED NOT NULL,
  PRIMARY KEY (company_id, drawer_id, piece),
  FOREIGN KEY (company_id, drawer_id) REFERENCES drawer (company_id, id)
);

-- Money put in or (below zero) taken out, with why. Written once.
CREATE TABLE IF NOT EXISTS drawer_move (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  drawer_id INT UNSIGNED NOT NULL,
  amount DECIMAL(18,4) NOT NULL CHECK (amount <> 0),
  reason VARCHAR(120) NOT NULL,
  moved_by INT UNSIGNED NOT NULL,
  moved_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, id),
  KEY drawer_move_id (id),
  KEY drawer_move_of (company_id, drawer_id),
  FOREIGN KEY (company_id, drawer_id) REFERENCES drawer (company_id, id),
  FOREIGN KEY (moved_by) REFERENCES person (id)
);

-- What a card terminal was asked for: kept before it is asked, so that nothing is charged twice or lost. (C2)
CREATE TABLE IF NOT EXISTS card_payment (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  version INT UNSIGNED NOT NULL DEFAULT 1,
  till_id INT UNSIGNED NOT NULL,
  -- The slip it is for.
  order_id INT UNSIGNED NOT NULL,
  currency CHAR(3) NOT NULL,
  amount DECIMAL(18,4) NOT NULL CHECK (amount > 0),
  state ENUM('asked', 'taken', 'refused', 'given-back') NOT NULL DEFAULT 'asked',
  -- By what the terminal knows it.
  terminal VARCHAR(40) NOT NULL DEFAULT '',
  slip_id INT UNSIGNED NULL,
  -- Money that goes back.
  back BOOLEAN NOT NULL DEFAULT FALSE,
  -- Of which payment a part goes back; NULL where all of this one does.
  gives_back_id INT UNSIGNED NULL,
  asked_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  -- What the terminal has not answered, and what it took that is on no slip: the till goes on with it, Today shows it.
  hanging BOOLEAN AS (IF(state = 'asked' OR (state = 'taken' AND slip_id IS NULL), TRUE, NULL)) PERSISTENT,
  PRIMARY KEY (company_id, id),
  KEY card_payment_id (id),
  KEY card_payment_hanging (company_id, hanging, id),
  KEY card_payment_order (company_id, order_id),
  FOREIGN KEY (company_id, till_id) REFERENCES till (company_id, id),
  FOREIGN KEY (company_id, order_id) REFERENCES sales_order (company_id, id)
);

-- What the stand-in of the card terminal remembers: outside, by the reference it was asked with.
CREATE TABLE IF NOT EXISTS terminal_charge (
  reference VARCHAR(40) NOT NULL,
  amount DECIMAL(18,4) NOT NULL,
  asked SMALLINT UNSIGNED NOT NULL DEFAULT 1,
  -- What a part was given back of.
  of_reference VARCHAR(40) NULL,
  state ENUM('taken', 'refused', 'given-back') NOT NULL,
  PRIMARY KEY (reference)
);

-- A slip: what was handed over, invoiced and paid in one act, or brought back. Numbered without gaps. Written once. (C3 C5)
CREATE TABLE IF NOT EXISTS slip (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  drawer_id INT UNSIGNED NOT NULL,
  customer_id INT UNSIGNED NOT NULL,
  currency CHAR(3) NOT NULL,
  sold_on DATE NOT NULL,
  sold_by INT UNSIGNED NOT NULL,
  sold_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  customer_invoice_id INT UNSIGNED NULL,
  credit_note_id INT UNSIGNED NULL,
  -- The slip whose goods came back.
  returns_id INT UNSIGNED NULL,
  -- Of the invoice, tax included, and what of it prepayments and deposits covered.
  total DECIMAL(18,4) NOT NULL DEFAULT 0,
  covered DECIMAL(18,4) NOT NULL DEFAULT 0,
  -- Paid for what was not taken along.
  deposited DECIMAL(18,4) NOT NULL DEFAULT 0,
  given DECIMAL(18,4) NOT NULL DEFAULT 0,
  change_given DECIMAL(18,4) NOT NULL DEFAULT 0,
  PRIMARY KEY (company_id, id),
  KEY slip_id (id),
  UNIQUE KEY slip_number (company_id, number),
  KEY slip_drawer (company_id, drawer_id, id),
  KEY slip_invoice (company_id, customer_invoice_id),
  KEY slip_returns (company_id, returns_id),
  FOREIGN KEY (company_id, drawer_id) REFERENCES drawer (company_id, id),
  FOREIGN KEY (company_id, customer_id) REFERENCES customer (company_id, id),
  FOREIGN KEY (company_id, customer_invoice_id) REFERENCES customer_invoice (company_id, id),
  FOREIGN KEY (company_id, credit_note_id) REFERENCES credit_note (company_id, id),
  FOREIGN KEY (company_id, returns_id) REFERENCES slip (company_id, id),
  FOREIGN KEY (sold_by) REFERENCES person (id)
);

CREATE TABLE IF NOT EXISTS slip_order (
  company_id SMALLINT UNSIGNED NOT NULL,
  slip_id INT UNSIGNED NOT NULL,
  order_id INT UNSIGNED NOT NULL,
  PRIMARY KEY (company_id, slip_id, order_id),
  KEY slip_order_of (company_id, order_id),
  FOREIGN KEY (company_id, slip_id) REFERENCES slip (company_id, id),
  FOREIGN KEY (company_id, order_id) REFERENCES sales_order (company_id, id)
);

-- How a slip was paid, or (below zero) paid back. Written once.
CREATE TABLE IF NOT EXISTS slip_payment (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  slip_id INT UNSIGNED NOT NULL,
  kind ENUM('cash', 'card', 'voucher', 'account') NOT NULL,
  -- Of the invoice (or the credit note) and of deposits; what cash was rounded by.
  invoiced DECIMAL(18,4) NOT NULL DEFAULT 0,
  deposited DECIMAL(18,4) NOT NULL DEFAULT 0,
  rounding DECIMAL(18,4) NOT NULL DEFAULT 0,
  card_payment_id INT UNSIGNED NULL,
  credit_note_id INT UNSIGNED NULL,
  PRIMARY KEY (company_id, id),
  KEY slip_payment_id (id),
  KEY slip_payment_of (company_id, slip_id),
  UNIQUE KEY slip_payment_card (company_id, card_payment_id, kind, slip_id),
  FOREIGN KEY (company_id, slip_id) REFERENCES slip (company_id, id),
  FOREIGN KEY (company_id, card_payment_id) REFERENCES card_payment (company_id, id),
  FOREIGN KEY (company_id, credit_note_id) REFERENCES credit_note (company_id, id)
);

-- A deposit paid back out of a drawer. Written once.
CREATE TABLE IF NOT EXISTS deposit_return (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  drawer_id INT UNSIGNED NOT NULL,
  prepayment_id INT UNSIGNED NOT NULL,
  -- As it was paid in notes and coins.
  amount DECIMAL(18,4) NOT NULL CHECK (amount >= 0),
  PRIMARY KEY (company_id, id),
  KEY deposit_return_id (id),
  KEY deposit_return_drawer (company_id, drawer_id),
  FOREIGN KEY (company_id, drawer_id) REFERENCES drawer (company_id, id),
  FOREIGN KEY (company_id, prepayment_id) REFERENCES prepayment (company_id, id)
);

-- A payment says by what it came; one that gives back what a credit note stands for is below zero. Cash is rounded.
ALTER TABLE payment
  MODIFY COLUMN amount DECIMAL(18,4) NOT NULL CHECK (amount <> 0),
  ADD COLUMN IF NOT EXISTS means ENUM('bank', 'cash', 'card') NOT NULL DEFAULT 'bank',
  ADD COLUMN IF NOT EXISTS rounding DECIMAL(18,4) NOT NULL DEFAULT 0,
  ADD COLUMN IF NOT EXISTS slip_id INT UNSIGNED NULL,
  ADD KEY IF NOT EXISTS payment_slip (company_id, slip_id);

-- A deposit is money taken ahead for one order, where a prepayment is for an agreement. (C2 C3)
ALTER TABLE prepayment
  MODIFY COLUMN agreement_id INT UNSIGNED NULL,
  ADD COLUMN IF NOT EXISTS order_id INT UNSIGNED NULL,
  ADD COLUMN IF NOT EXISTS means ENUM('bank', 'cash', 'card') NOT NULL DEFAULT 'bank',
  ADD COLUMN IF NOT EXISTS rounding DECIMAL(18,4) NOT NULL DEFAULT 0,
  ADD COLUMN IF NOT EXISTS slip_id INT UNSIGNED NULL,
  ADD KEY IF NOT EXISTS prepayment_order (company_id, order_id),
  ADD KEY IF NOT EXISTS prepayment_slip (company_id, slip_id),
  ADD CONSTRAINT prepayment_of_order FOREIGN KEY IF NOT EXISTS (company_id, order_id) REFERENCES sales_order (company_id, id),
  ADD CONSTRAINT IF NOT EXISTS prepayment_for CHECK ((agreement_id IS NULL) <> (order_id IS NULL));

ALTER TABLE prepayment_move
  ADD COLUMN IF NOT EXISTS means ENUM('bank', 'cash', 'card') NOT NULL DEFAULT 'bank',
  ADD COLUMN IF NOT EXISTS rounding DECIMAL(18,4) NOT NULL DEFAULT 0;

-- What of a prepayment is kept for an order that waits at the till: no other order draws it. (C1)
CREATE TABLE IF NOT EXISTS prepayment_mark (
  company_id SMALLINT UNSIGNED NOT NULL,
  prepayment_id INT UNSIGNED NOT NULL,
  order_id INT UNSIGNED NOT NULL,
  amount DECIMAL(18,4) NOT NULL CHECK (amount > 0),
  PRIMARY KEY (company_id, prepayment_id, order_id),
  KEY prepayment_mark_order (company_id, order_id),
  FOREIGN KEY (company_id, prepayment_id) REFERENCES prepayment (company_id, id),
  FOREIGN KEY (company_id, order_id) REFERENCES sales_order (company_id, id)
);

INSERT INTO account (company_id, code, name, posting_role)
SELECT c.id, r.code, r.name, r.role FROM company c
  JOIN (SELECT '1010' AS code, 'Cash in drawers' AS name, 'cash-drawer' AS role
        UNION ALL SELECT '1020', 'Card payments under way', 'card-clearing'
        UNION ALL SELECT '6910', 'Cash rounding', 'cash-rounding'
        UNION ALL SELECT '6920', 'Differences of drawers', 'drawer-difference') r
 WHERE c.elsewhere = FALSE AND NOT EXISTS (SELECT 1 FROM account a WHERE a.company_id = c.id AND a.posting_role = r.role);

-- Who stands at the counter; who may see to it besides.
INSERT IGNORE INTO role (company_id, name, rights) SELECT id, 'Counter clerk', '["counter"]' FROM company WHERE elsewhere = FALSE;
UPDATE role SET rights = JSON_ARRAY_APPEND(rights, '$', 'counter')
 WHERE name IN ('Order administrator', 'Sales manager', 'Accounts clerk') AND NOT JSON_CONTAINS(rights, '"counter"');

CREATE OR REPLACE TRIGGER slip_no_update BEFORE UPDATE ON slip FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'slip is written once';
CREATE OR REPLACE TRIGGER slip_no_delete BEFORE DELETE ON slip FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'slip is written once';
CREATE OR REPLACE TRIGGER slip_payment_no_update BEFORE UPDATE ON slip_payment FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'slip_payment is written once';
CREATE OR REPLACE TRIGGER slip_payment_no_delete BEFORE DELETE ON slip_payment FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'slip_payment is written once';
CREATE OR REPLACE TRIGGER drawer_move_no_update BEFORE UPDATE ON drawer_move FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'drawer_move is written once';
CREATE OR REPLACE TRIGGER drawer_move_no_delete BEFORE DELETE ON drawer_move FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'drawer_move is written once';
