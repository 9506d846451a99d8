-- Money taken ahead against an agreement, and what is charged for what was not taken. (A11, A12)

CREATE TABLE IF NOT EXISTS prepayment (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  customer_id INT UNSIGNED NOT NULL,
  agreement_id INT UNSIGNED NOT NULL,
  -- Held for one line of it; NULL for all of it.
  agreement_line_id INT UNSIGNED NULL,
  currency CHAR(3) NOT NULL,
  taken_on DATE NOT NULL,
  amount DECIMAL(18,4) NOT NULL CHECK (amount > 0),
  -- Kept by the acts, proven by verify: what is left is amount − drawn − returned − carried.
  drawn DECIMAL(18,4) NOT NULL DEFAULT 0,
  returned DECIMAL(18,4) NOT NULL DEFAULT 0,
  carried DECIMAL(18,4) NOT NULL DEFAULT 0,
  -- The prepayment of the agreement before, which it carries on.
  carried_from INT UNSIGNED NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, id),
  KEY prepayment_id (id),
  UNIQUE KEY prepayment_number (company_id, number),
  KEY prepayment_agreement (company_id, agreement_id),
  KEY prepayment_customer (company_id, customer_id),
  FOREIGN KEY (company_id, customer_id) REFERENCES customer (company_id, id),
  FOREIGN KEY (company_id, agreement_id) REFERENCES agreement (company_id, id),
  FOREIGN KEY (company_id, agreement_line_id) REFERENCES agreement_line (company_id, id),
  FOREIGN KEY (company_id, carried_from) REFERENCES prepayment (company_id, id),
  CONSTRAINT prepayment_within CHECK (
    drawn >= 0 AND returned >= 0 AND carried >= 0 AND drawn + returned + carried <= amount
  )
);

-- Every movement of a prepayment. Written once.
CREATE TABLE IF NOT EXISTS prepayment_move (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  prepayment_id INT UNSIGNED NOT NULL,
  kind ENUM('drawn','returned','carried') NOT NULL,
  amount DECIMAL(18,4) NOT NULL CHECK (amount > 0),
  moved_on DATE NOT NULL,
  -- Of what was drawn: the invoice and its line.
  customer_invoice_id INT UNSIGNED NULL,
  invoice_line_id INT UNSIGNED NULL,
  PRIMARY KEY (company_id, id),
  KEY prepayment_move_id (id),
  KEY prepayment_move_of (company_id, prepayment_id),
  KEY prepayment_move_invoice (company_id, customer_invoice_id),
  FOREIGN KEY (company_id, prepayment_id) REFERENCES prepayment (company_id, id),
  FOREIGN KEY (company_id, customer_invoice_id) REFERENCES customer_invoice (company_id, id),
  FOREIGN KEY (company_id, invoice_line_id) REFERENCES customer_invoice_line (company_id, id)
);

-- What is to be charged for what an agreement committed to and was not taken, until it is posted or dropped.
CREATE TABLE IF NOT EXISTS shortfall_draft (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  agreement_id INT UNSIGNED NOT NULL,
  made_on DATE NOT NULL,
  state ENUM('draft','posted','dropped') NOT NULL DEFAULT 'draft',
  customer_invoice_id INT UNSIGNED NULL,
  PRIMARY KEY (company_id, id),
  KEY shortfall_draft_id (id),
  UNIQUE KEY shortfall_draft_agreement (company_id, agreement_id),
  -- Serves Today.
  KEY shortfall_draft_state (company_id, state),
  FOREIGN KEY (company_id, agreement_id) REFERENCES agreement (company_id, id),
  FOREIGN KEY (company_id, customer_invoice_id) REFERENCES customer_invoice (company_id, id)
);

CREATE TABLE IF NOT EXISTS shortfall_line (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  shortfall_draft_id INT UNSIGNED NOT NULL,
  agreement_line_id INT UNSIGNED NOT NULL,
  -- Units that were not taken; 1 where the agreement is by value.
  quantity DECIMAL(18,5) NOT NULL CHECK (quantity > 0),
  unit_price DECIMAL(14,4) NOT NULL,
  net DECIMAL(18,4) NOT NULL,
  tax_code_id INT UNSIGNED NOT NULL,
  tax_rate DECIMAL(5,2) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY shortfall_line_id (id),
  KEY shortfall_line_draft (company_id, shortfall_draft_id),
  FOREIGN KEY (company_id, shortfall_draft_id) REFERENCES shortfall_draft (company_id, id),
  FOREIGN KEY (company_id, agreement_line_id) REFERENCES agreement_line (company_id, id),
  FOREIGN KEY (company_id, tax_code_id) REFERENCES tax_code (company_id, id)
);

-- An invoice for a shortfall covers no shipment and no order.
ALTER TABLE customer_invoice
  MODIFY COLUMN order_id INT UNSIGNED NULL,
  ADD COLUMN IF NOT EXISTS agreement_id INT UNSIGNED NULL,
  ADD KEY IF NOT EXISTS customer_invoice_agreement (company_id, agreement_id),
  ADD CONSTRAINT customer_invoice_of_agreement FOREIGN KEY IF NOT EXISTS (company_id, agreement_id)
    REFERENCES agreement (company_id, id),
  ADD CONSTRAINT IF NOT EXISTS customer_invoice_for CHECK ((order_id IS NULL) <> (agreement_id IS NULL));

ALTER TABLE customer_invoice_line
  MODIFY COLUMN shipment_line_id INT UNSIGNED NULL,
  MODIFY COLUMN order_line_id INT UNSIGNED NULL,
  ADD COLUMN IF NOT EXISTS shortfall_line_id INT UNSIGNED NULL,
  ADD CONSTRAINT customer_invoice_line_shortfall FOREIGN KEY IF NOT EXISTS (company_id, shortfall_line_id)
    REFERENCES shortfall_line (company_id, id),
  ADD CONSTRAINT IF NOT EXISTS customer_invoice_line_for CHECK (
    (shortfall_line_id IS NULL) = (shipment_line_id IS NOT NULL) AND (shipment_line_id IS NULL) = (order_line_id IS NULL)
  );

ALTER TABLE agreement DROP CONSTRAINT IF EXISTS agreement_ended;
ALTER TABLE agreement
  MODIFY COLUMN wrap_up ENUM('end','waive','renew','charge') NULL;
ALTER TABLE agreement
  ADD CONSTRAINT IF NOT EXISTS agreement_wrapped CHECK (
    (state = 'ended') = (ended_on IS NOT NULL) AND (state = 'ended') = (wrap_up IS NOT NULL)
    AND (renewed_as IS NULL OR wrap_up = 'renew')
  );

CREATE OR REPLACE TRIGGER prepayment_move_no_update BEFORE UPDATE ON prepayment_move FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'prepayment_move is written once';
CREATE OR REPLACE TRIGGER prepayment_move_no_delete BEFORE DELETE ON prepayment_move FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'prepayment_move is written once';
