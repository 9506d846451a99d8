-- Commission: rates, what is earned by invoice or payment, statements that are settled once. (S12)

CREATE TABLE IF NOT EXISTS commission_rate (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  -- For whom, on what and with whom; NULL for any.
  person_id INT UNSIGNED NULL,
  price_group_id INT UNSIGNED NULL,
  item_group_id INT UNSIGNED NULL,
  per_cent DECIMAL(7,4) NOT NULL,
  base ENUM('net', 'margin') NOT NULL DEFAULT 'net',
  earned_at ENUM('invoice', 'payment') NOT NULL DEFAULT 'invoice',
  first_day DATE NULL,
  last_day DATE NULL,
  PRIMARY KEY (company_id, id),
  KEY commission_rate_id (id),
  FOREIGN KEY (person_id) REFERENCES person (id),
  FOREIGN KEY (company_id, price_group_id) REFERENCES price_group (company_id, id),
  FOREIGN KEY (company_id, item_group_id) REFERENCES item_group (company_id, id),
  CONSTRAINT commission_rate_above CHECK (per_cent > 0 AND per_cent <= 100),
  CONSTRAINT commission_rate_days CHECK (first_day IS NULL OR last_day IS NULL OR last_day >= first_day)
);

CREATE TABLE IF NOT EXISTS commission_statement (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  version INT UNSIGNED NOT NULL DEFAULT 1,
  state ENUM('made', 'paid', 'withdrawn') NOT NULL DEFAULT 'made',
  person_id INT UNSIGNED NOT NULL,
  until_day DATE NOT NULL,
  amount DECIMAL(18,2) NOT NULL,
  made_on DATE NOT NULL,
  paid_on DATE NULL,
  reason VARCHAR(200) NOT NULL DEFAULT '',
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, id),
  KEY commission_statement_id (id),
  UNIQUE KEY commission_statement_number (company_id, number),
  KEY commission_statement_person (company_id, person_id, id),
  FOREIGN KEY (person_id) REFERENCES person (id),
  CONSTRAINT commission_statement_paid CHECK ((state = 'paid') = (paid_on IS NOT NULL))
);

-- What somebody earned of a line of an invoice; what is taken back is below zero. Never changed but for its statement.
CREATE TABLE IF NOT EXISTS commission_earning (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  person_id INT UNSIGNED NOT NULL,
  invoice_line_id INT UNSIGNED NOT NULL,
  per_cent DECIMAL(7,4) NOT NULL,
  base ENUM('net', 'margin') NOT NULL,
  earned_at ENUM('invoice', 'payment') NOT NULL,
  -- The person's part in per cent, and what it was reckoned of.
  share DECIMAL(7,4) NOT NULL,
  of_amount DECIMAL(18,4) NOT NULL,
  amount DECIMAL(18,2) NOT NULL CHECK (amount <> 0),
  earned_on DATE NOT NULL,
  statement_id INT UNSIGNED NULL,
  PRIMARY KEY (company_id, id),
  KEY commission_earning_id (id),
  KEY commission_earning_line (company_id, invoice_line_id, person_id),
  -- Serves what is on no statement yet, and what is on one.
  KEY commission_earning_person (company_id, person_id, statement_id, earned_on),
  KEY commission_earning_statement (company_id, statement_id, id),
  FOREIGN KEY (person_id) REFERENCES person (id),
  FOREIGN KEY (company_id, invoice_line_id) REFERENCES customer_invoice_line (company_id, id),
  FOREIGN KEY (company_id, statement_id) REFERENCES commission_statement (company_id, id)
);

-- Invoices to be looked at again: something about them is another since.
CREATE TABLE IF NOT EXISTS commission_due (
  company_id SMALLINT UNSIGNED NOT NULL,
  invoice_id INT UNSIGNED NOT NULL,
  PRIMARY KEY (company_id, invoice_id),
  FOREIGN KEY (company_id, invoice_id) REFERENCES customer_invoice (company_id, id)
);

-- Where nobody keeps rates, nothing is looked at.
CREATE OR REPLACE TRIGGER customer_invoice_earns AFTER INSERT ON customer_invoice FOR EACH ROW
  INSERT IGNORE INTO commission_due (company_id, invoice_id)
    SELECT NEW.company_id, NEW.id FROM DUAL WHERE EXISTS (SELECT 1 FROM commission_rate r WHERE r.company_id = NEW.company_id);

CREATE OR REPLACE TRIGGER credit_note_earns AFTER INSERT ON credit_note FOR EACH ROW
  IF NEW.customer_invoice_id IS NOT NULL THEN
    INSERT IGNORE INTO commission_due (company_id, invoice_id)
      SELECT NEW.company_id, NEW.customer_invoice_id FROM DUAL
       WHERE EXISTS (SELECT 1 FROM commission_rate r WHERE r.company_id = NEW.company_id);
  END IF;

CREATE OR REPLACE TRIGGER open_item_earns AFTER UPDATE ON open_item FOR EACH ROW
  IF NEW.settled <> OLD.settled AND NEW.customer_invoice_id IS NOT NULL THEN
    INSERT IGNORE INTO commission_due (company_id, invoice_id)
      SELECT NEW.company_id, NEW.customer_invoice_id FROM DUAL
       WHERE EXISTS (SELECT 1 FROM commission_rate r WHERE r.company_id = NEW.company_id);
  END IF;

CREATE OR REPLACE TRIGGER order_commission_earns AFTER INSERT ON order_commission FOR EACH ROW
  INSERT IGNORE INTO commission_due (company_id, invoice_id)
    SELECT DISTINCT il.company_id, il.invoice_id FROM sales_order_line ol
      JOIN customer_invoice_line il ON il.company_id = ol.company_id AND il.order_line_id = ol.id
     WHERE ol.company_id = NEW.company_id AND ol.order_id = NEW.order_id;

CREATE OR REPLACE TRIGGER order_commission_earns_not AFTER DELETE ON order_commission FOR EACH ROW
  INSERT IGNORE INTO commission_due (company_id, invoice_id)
    SELECT DISTINCT il.company_id, il.invoice_id FROM sales_order_line ol
      JOIN customer_invoice_line il ON il.company_id = ol.company_id AND il.order_line_id = ol.id
     WHERE ol.company_id = OLD.company_id AND ol.order_id = OLD.order_id;

CREATE OR REPLACE TRIGGER commission_earning_kept BEFORE DELETE ON commission_earning FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'commission_earning is only added to';

INSERT INTO account (company_id, code, name, posting_role)
SELECT c.id, r.code, r.name, r.role FROM company c
  JOIN (SELECT '2500' AS code, 'Commission owed' AS name, 'commission-owed' AS role
        UNION ALL SELECT '6200', 'Commission', 'commission') r
 WHERE c.elsewhere = FALSE AND NOT EXISTS (SELECT 1 FROM account a WHERE a.company_id = c.id AND a.posting_role = r.role);

INSERT IGNORE INTO role (company_id, name, rights) SELECT id, 'Sales person', '["see-agreements"]' FROM company WHERE elsewhere = FALSE;
UPDATE role SET rights = JSON_ARRAY_APPEND(rights, '$', 'commission')
 WHERE name IN ('Order administrator', 'Sales manager', 'Accounts clerk') AND NOT JSON_CONTAINS(rights, '"commission"');
