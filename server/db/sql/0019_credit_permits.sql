-- What a customer may owe at most, and the permits some items need. (S4, S5)

ALTER TABLE customer ADD COLUMN IF NOT EXISTS credit_limit DECIMAL(18,4) NULL CHECK (credit_limit >= 0);

-- Why an order passed over its customer's limit; who let it pass is in the audit. (S4)
ALTER TABLE sales_order ADD COLUMN IF NOT EXISTS credit_reason VARCHAR(120) NOT NULL DEFAULT '';

-- Who may let an order pass: managers, to begin with.
UPDATE role SET rights = JSON_ARRAY_APPEND(rights, '$', 'credit')
 WHERE name = 'Sales manager' AND NOT JSON_CONTAINS(rights, '"credit"');

CREATE TABLE IF NOT EXISTS permit_type (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  name VARCHAR(60) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY permit_type_id (id),
  UNIQUE KEY permit_type_name (company_id, name),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

CREATE TABLE IF NOT EXISTS permit (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  permit_type_id INT UNSIGNED NOT NULL,
  customer_id INT UNSIGNED NOT NULL,
  number VARCHAR(40) NOT NULL,
  first_day DATE NOT NULL,
  last_day DATE NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY permit_id (id),
  -- Serves "the permits of this customer".
  KEY permit_customer (company_id, customer_id, last_day),
  FOREIGN KEY (company_id, permit_type_id) REFERENCES permit_type (company_id, id),
  FOREIGN KEY (company_id, customer_id) REFERENCES customer (company_id, id),
  CONSTRAINT permit_period CHECK (last_day >= first_day)
);

ALTER TABLE item
  ADD COLUMN IF NOT EXISTS permit_type_id INT UNSIGNED NULL,
  ADD CONSTRAINT item_permit_type FOREIGN KEY IF NOT EXISTS (company_id, permit_type_id)
    REFERENCES permit_type (company_id, id);

-- The permit a confirmed line goes out under.
ALTER TABLE sales_order_line
  ADD COLUMN IF NOT EXISTS permit_id INT UNSIGNED NULL,
  ADD CONSTRAINT sales_order_line_permit FOREIGN KEY IF NOT EXISTS (company_id, permit_id)
    REFERENCES permit (company_id, id);

-- Serves "confirmed orders of this customer", for their credit and while the next one is typed.
ALTER TABLE sales_order ADD KEY IF NOT EXISTS sales_order_customer_state (company_id, customer_id, state, id);
