-- Per cent off an invoice by its weight, volume, quantity or amount, and what was given on each. (R2)

CREATE TABLE IF NOT EXISTS allowance (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  measure ENUM('weight','volume','quantity','amount') NOT NULL,
  -- For a customer, a price group, or (both empty) everybody.
  customer_id INT UNSIGNED NULL,
  price_group_id INT UNSIGNED NULL,
  -- Of the amount it is given from; NULL for the other measures.
  currency CHAR(3) NULL,
  -- Kilograms, cubic metres, the items' own units, or the amount it is given from on.
  from_measure DECIMAL(18,5) NOT NULL CHECK (from_measure >= 0),
  per_cent DECIMAL(5,2) NOT NULL CHECK (per_cent > 0 AND per_cent < 100),
  first_day DATE NULL,
  last_day DATE NULL,
  PRIMARY KEY (company_id, id),
  KEY allowance_id (id),
  -- Serves "what may be allowed this customer".
  KEY allowance_customer (company_id, customer_id, price_group_id),
  FOREIGN KEY (company_id, customer_id) REFERENCES customer (company_id, id),
  FOREIGN KEY (company_id, price_group_id) REFERENCES price_group (company_id, id),
  CONSTRAINT allowance_of CHECK (customer_id IS NULL OR price_group_id IS NULL),
  CONSTRAINT allowance_currency CHECK ((measure = 'amount') = (currency IS NOT NULL)),
  CONSTRAINT allowance_period CHECK (first_day IS NULL OR last_day IS NULL OR last_day >= first_day)
);

CREATE TABLE IF NOT EXISTS invoice_allowance (
  company_id SMALLINT UNSIGNED NOT NULL,
  invoice_id INT UNSIGNED NOT NULL,
  measure ENUM('weight','volume','quantity','amount') NOT NULL,
  reached DECIMAL(18,5) NOT NULL,
  from_measure DECIMAL(18,5) NOT NULL,
  per_cent DECIMAL(5,2) NOT NULL,
  amount DECIMAL(18,4) NOT NULL CHECK (amount > 0),
  PRIMARY KEY (company_id, invoice_id, measure),
  FOREIGN KEY (company_id, invoice_id) REFERENCES customer_invoice (company_id, id)
);

-- A line's share of what is allowed on its invoice; its net is after it.
ALTER TABLE customer_invoice_line ADD COLUMN IF NOT EXISTS allowance DECIMAL(18,4) NOT NULL DEFAULT 0;

CREATE OR REPLACE TRIGGER invoice_allowance_no_update BEFORE UPDATE ON invoice_allowance FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'invoice_allowance is written once';
CREATE OR REPLACE TRIGGER invoice_allowance_no_delete BEFORE DELETE ON invoice_allowance FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'invoice_allowance is written once';
