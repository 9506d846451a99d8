-- What vendors promised us for what we sell, accrued as it is invoiced, claimed, and settled against their invoices. (S13)

CREATE TABLE IF NOT EXISTS support (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  version INT UNSIGNED NOT NULL DEFAULT 1,
  state ENUM('running', 'stopped') NOT NULL DEFAULT 'running',
  name VARCHAR(120) NOT NULL,
  vendor_id INT UNSIGNED NOT NULL,
  -- Only what is sold to one customer, to a price group, by a promotion; NULL for all.
  customer_id INT UNSIGNED NULL,
  price_group_id INT UNSIGNED NULL,
  promotion_id INT UNSIGNED NULL,
  first_day DATE NOT NULL,
  last_day DATE NOT NULL,
  reason VARCHAR(200) NOT NULL DEFAULT '',
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, id),
  KEY support_id (id),
  UNIQUE KEY support_number (company_id, number),
  KEY support_last (company_id, last_day, id),
  FOREIGN KEY (company_id, vendor_id) REFERENCES vendor (company_id, id),
  FOREIGN KEY (company_id, customer_id) REFERENCES customer (company_id, id),
  FOREIGN KEY (company_id, price_group_id) REFERENCES price_group (company_id, id),
  FOREIGN KEY (company_id, promotion_id) REFERENCES promotion (company_id, id),
  CONSTRAINT support_days CHECK (last_day >= first_day),
  CONSTRAINT support_who CHECK (customer_id IS NULL OR price_group_id IS NULL)
);

CREATE TABLE IF NOT EXISTS support_line (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  support_id INT UNSIGNED NOT NULL,
  line_no SMALLINT UNSIGNED NOT NULL,
  item_id INT UNSIGNED NULL,
  item_group_id INT UNSIGNED NULL,
  -- For one of the item's own unit, in the company's currency.
  per_unit DECIMAL(14,4) NOT NULL CHECK (per_unit > 0),
  PRIMARY KEY (company_id, id),
  KEY support_line_id (id),
  KEY support_line_of (company_id, support_id, line_no),
  FOREIGN KEY (company_id, support_id) REFERENCES support (company_id, id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id),
  FOREIGN KEY (company_id, item_group_id) REFERENCES item_group (company_id, id),
  CONSTRAINT support_line_what CHECK ((item_id IS NULL) <> (item_group_id IS NULL))
);

CREATE TABLE IF NOT EXISTS claim (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  version INT UNSIGNED NOT NULL DEFAULT 1,
  vendor_id INT UNSIGNED NOT NULL,
  until_day DATE NOT NULL,
  made_on DATE NOT NULL,
  amount DECIMAL(18,2) NOT NULL CHECK (amount > 0),
  settled DECIMAL(18,2) NOT NULL DEFAULT 0,
  withdrawn BOOLEAN NOT NULL DEFAULT FALSE,
  reason VARCHAR(200) NOT NULL DEFAULT '',
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, id),
  KEY claim_id (id),
  UNIQUE KEY claim_number (company_id, number),
  KEY claim_vendor (company_id, vendor_id, id),
  FOREIGN KEY (company_id, vendor_id) REFERENCES vendor (company_id, id),
  CONSTRAINT claim_settled CHECK (settled >= 0 AND settled <= amount),
  CONSTRAINT claim_withdrawn CHECK (NOT withdrawn OR settled = 0)
);

-- What is owed for a line of an invoice; below zero where it came back. Never changed but for its claim.
CREATE TABLE IF NOT EXISTS support_accrual (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  support_line_id INT UNSIGNED NOT NULL,
  invoice_line_id INT UNSIGNED NOT NULL,
  per_unit DECIMAL(14,4) NOT NULL,
  quantity DECIMAL(18,5) NOT NULL CHECK (quantity <> 0),
  amount DECIMAL(18,2) NOT NULL,
  accrued_on DATE NOT NULL,
  claim_id INT UNSIGNED NULL,
  PRIMARY KEY (company_id, id),
  KEY support_accrual_id (id),
  KEY support_accrual_line (company_id, support_line_id, claim_id, accrued_on),
  KEY support_accrual_invoice (company_id, invoice_line_id, support_line_id),
  KEY support_accrual_claim (company_id, claim_id, id),
  FOREIGN KEY (company_id, support_line_id) REFERENCES support_line (company_id, id),
  FOREIGN KEY (company_id, invoice_line_id) REFERENCES customer_invoice_line (company_id, id),
  FOREIGN KEY (company_id, claim_id) REFERENCES claim (company_id, id)
);

-- What became of a claim: set off against an invoice of the vendor, paid, or given up.
CREATE TABLE IF NOT EXISTS claim_move (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  claim_id INT UNSIGNED NOT NULL,
  kind ENUM('invoice', 'paid', 'lost') NOT NULL,
  amount DECIMAL(18,2) NOT NULL CHECK (amount > 0),
  moved_on DATE NOT NULL,
  open_item_id INT UNSIGNED NULL,
  reason VARCHAR(200) NOT NULL DEFAULT '',
  PRIMARY KEY (company_id, id),
  KEY claim_move_id (id),
  KEY claim_move_of (company_id, claim_id, id),
  KEY claim_move_item (company_id, open_item_id),
  FOREIGN KEY (company_id, claim_id) REFERENCES claim (company_id, id),
  FOREIGN KEY (company_id, open_item_id) REFERENCES open_item (company_id, id),
  CONSTRAINT claim_move_invoice CHECK ((kind = 'invoice') = (open_item_id IS NOT NULL))
);

CREATE TABLE IF NOT EXISTS support_due (
  company_id SMALLINT UNSIGNED NOT NULL,
  invoice_id INT UNSIGNED NOT NULL,
  PRIMARY KEY (company_id, invoice_id),
  FOREIGN KEY (company_id, invoice_id) REFERENCES customer_invoice (company_id, id)
);

CREATE OR REPLACE TRIGGER customer_invoice_supported AFTER INSERT ON customer_invoice FOR EACH ROW
  INSERT IGNORE INTO support_due (company_id, invoice_id)
    SELECT NEW.company_id, NEW.id FROM DUAL WHERE EXISTS (SELECT 1 FROM support s WHERE s.company_id = NEW.company_id);

CREATE OR REPLACE TRIGGER credit_note_supported AFTER INSERT ON credit_note FOR EACH ROW
  IF NEW.customer_invoice_id IS NOT NULL THEN
    INSERT IGNORE INTO support_due (company_id, invoice_id)
      SELECT NEW.company_id, NEW.customer_invoice_id FROM DUAL
       WHERE EXISTS (SELECT 1 FROM support s WHERE s.company_id = NEW.company_id);
  END IF;

-- What is promised anew holds for what was invoiced within its days already.
CREATE OR REPLACE TRIGGER support_line_due AFTER INSERT ON support_line FOR EACH ROW
  INSERT IGNORE INTO support_due (company_id, invoice_id)
    SELECT i.company_id, i.id FROM support s
      JOIN customer_invoice i ON i.company_id = s.company_id AND i.invoice_date BETWEEN s.first_day AND s.last_day
     WHERE s.company_id = NEW.company_id AND s.id = NEW.support_id;

CREATE OR REPLACE TRIGGER support_accrual_kept BEFORE DELETE ON support_accrual FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'support_accrual is only added to';

INSERT INTO account (company_id, code, name, posting_role)
SELECT c.id, r.code, r.name, r.role FROM company c
  JOIN (SELECT '1300' AS code, 'Claims on vendors' AS name, 'claims-owed' AS role
        UNION ALL SELECT '5110', 'Support by vendors', 'support-earned') r
 WHERE c.elsewhere = FALSE AND NOT EXISTS (SELECT 1 FROM account a WHERE a.company_id = c.id AND a.posting_role = r.role);

UPDATE role SET rights = JSON_ARRAY_APPEND(rights, '$', 'promotions')
 WHERE name = 'Buyer' AND NOT JSON_CONTAINS(rights, '"promotions"');
