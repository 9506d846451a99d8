-- A company of one's own: the word that opens an empty installation, the zone of its days, and parties out of use. (U1 U2)

-- One row while nobody has begun: whoever holds the word makes the first company. Made anew at every start.
CREATE TABLE IF NOT EXISTS first_visit (
  id TINYINT UNSIGNED NOT NULL DEFAULT 1,
  -- SHA-256 of the word: a stolen table opens nothing.
  word_hash BINARY(32) NOT NULL,
  made_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (id),
  CONSTRAINT first_visit_one CHECK (id = 1)
);

ALTER TABLE company
  -- An IANA name; NULL for the zone of the machine.
  ADD COLUMN IF NOT EXISTS time_zone VARCHAR(60) NULL;

ALTER TABLE customer
  ADD COLUMN IF NOT EXISTS out_of_use BOOLEAN NOT NULL DEFAULT FALSE,
  -- Serve what is alike while somebody is typed in.
  ADD KEY IF NOT EXISTS customer_phone (company_id, phone),
  ADD KEY IF NOT EXISTS customer_tax_number (company_id, tax_number);
ALTER TABLE vendor
  ADD COLUMN IF NOT EXISTS out_of_use BOOLEAN NOT NULL DEFAULT FALSE,
  ADD KEY IF NOT EXISTS vendor_phone (company_id, phone),
  ADD KEY IF NOT EXISTS vendor_tax_number (company_id, tax_number);

-- What a company had before it came here is posted against it. (U3)
INSERT INTO account (company_id, code, name, posting_role)
  SELECT c.id, '3000', 'Opening balance', 'opening-balance' FROM company c
   WHERE c.elsewhere = FALSE
     AND NOT EXISTS (SELECT 1 FROM account a WHERE a.company_id = c.id AND a.posting_role = 'opening-balance');

-- Who keeps people is a right of its own: whoever looked after Kampong has it. Who took files along goes on doing so.
UPDATE role SET rights = JSON_MERGE_PRESERVE(rights, '["people","companies"]')
  WHERE JSON_CONTAINS(rights, '"upkeep"') AND NOT JSON_CONTAINS(rights, '"people"');
UPDATE role SET rights = JSON_MERGE_PRESERVE(rights, '["export"]')
  WHERE name NOT IN ('Workshop', 'Counter clerk', 'Sales person') AND NOT JSON_CONTAINS(rights, '"export"');

-- Rates that hold from a day on: on that day the clock makes it the rate of its code. (U2)
CREATE TABLE IF NOT EXISTS tax_rate (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  tax_code_id INT UNSIGNED NOT NULL,
  first_day DATE NOT NULL,
  rate DECIMAL(5,2) NOT NULL CHECK (rate >= 0),
  PRIMARY KEY (company_id, id),
  KEY tax_rate_id (id),
  UNIQUE KEY tax_rate_day (company_id, tax_code_id, first_day),
  FOREIGN KEY (company_id, tax_code_id) REFERENCES tax_code (company_id, id)
);
