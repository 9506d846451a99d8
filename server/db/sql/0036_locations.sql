-- Where a company keeps its goods. Number 0 is the place it has from its first day; others are added to the list. (S1 T1)
SET SESSION sql_mode = CONCAT(@@sql_mode, ',NO_AUTO_VALUE_ON_ZERO');

CREATE TABLE IF NOT EXISTS location (
  company_id SMALLINT UNSIGNED NOT NULL,
  id SMALLINT UNSIGNED NOT NULL AUTO_INCREMENT,
  code VARCHAR(12) NOT NULL,
  name VARCHAR(60) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY location_id (id),
  UNIQUE KEY location_code (company_id, code),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

INSERT IGNORE INTO location (company_id, id, code, name) SELECT id, 0, 'MAIN', 'Main store' FROM company;

-- A trigger keeps the mode it was made under: a new company's first place has number 0 as well.
CREATE OR REPLACE TRIGGER company_has_a_place AFTER INSERT ON company FOR EACH ROW
  INSERT INTO location (company_id, id, code, name) VALUES (NEW.id, 0, 'MAIN', 'Main store');

-- What is on hand is on hand somewhere.
ALTER TABLE stock
  ADD COLUMN IF NOT EXISTS location_id SMALLINT UNSIGNED NOT NULL DEFAULT 0,
  DROP PRIMARY KEY,
  ADD PRIMARY KEY (company_id, item_id, location_id);
ALTER TABLE stock
  ADD FOREIGN KEY IF NOT EXISTS stock_at (company_id, location_id) REFERENCES location (company_id, id);

-- Of entries at 'ours' the place itself; of those that only passed through, none.
ALTER TABLE stock_entry
  ADD COLUMN IF NOT EXISTS location_id SMALLINT UNSIGNED NOT NULL DEFAULT 0,
  ADD FOREIGN KEY IF NOT EXISTS stock_entry_at (company_id, location_id) REFERENCES location (company_id, id);

-- Where a line goes out from, unless it is a drop shipment.
ALTER TABLE sales_order_line
  ADD COLUMN IF NOT EXISTS location_id SMALLINT UNSIGNED NOT NULL DEFAULT 0,
  ADD FOREIGN KEY IF NOT EXISTS sales_order_line_at (company_id, location_id) REFERENCES location (company_id, id);

-- Where a purchase comes to, unless it goes to a customer.
ALTER TABLE purchase_order
  ADD COLUMN IF NOT EXISTS location_id SMALLINT UNSIGNED NOT NULL DEFAULT 0,
  ADD FOREIGN KEY IF NOT EXISTS purchase_order_at (company_id, location_id) REFERENCES location (company_id, id);

-- Where a planned purchase comes to; what is made or assembled is made at the first place.
ALTER TABLE planned_order
  ADD COLUMN IF NOT EXISTS location_id SMALLINT UNSIGNED NOT NULL DEFAULT 0,
  ADD FOREIGN KEY IF NOT EXISTS planned_order_at (company_id, location_id) REFERENCES location (company_id, id);

SET SESSION sql_mode = REPLACE(@@sql_mode, 'NO_AUTO_VALUE_ON_ZERO', '');
