-- Items, customers and vendors.

CREATE TABLE IF NOT EXISTS tax_code (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  code VARCHAR(10) NOT NULL,
  name VARCHAR(60) NOT NULL,
  rate DECIMAL(5,2) NOT NULL CHECK (rate >= 0),
  PRIMARY KEY (company_id, id),
  KEY tax_code_id (id),
  UNIQUE KEY tax_code_code (company_id, code),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

CREATE TABLE IF NOT EXISTS payment_terms (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  name VARCHAR(60) NOT NULL,
  days SMALLINT UNSIGNED NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY payment_terms_id (id),
  UNIQUE KEY payment_terms_name (company_id, name),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

CREATE TABLE IF NOT EXISTS customer (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(12) NOT NULL,
  name VARCHAR(120) NOT NULL,
  phone VARCHAR(40) NOT NULL DEFAULT '',
  currency CHAR(3) NOT NULL,
  payment_terms_id INT UNSIGNED NOT NULL,
  reference_required BOOLEAN NOT NULL DEFAULT FALSE,
  PRIMARY KEY (company_id, id),
  KEY customer_id (id),
  UNIQUE KEY customer_number (company_id, number),
  KEY customer_name (company_id, name),
  FOREIGN KEY (company_id) REFERENCES company (id),
  FOREIGN KEY (company_id, payment_terms_id) REFERENCES payment_terms (company_id, id)
);

CREATE TABLE IF NOT EXISTS ship_to (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  customer_id INT UNSIGNED NOT NULL,
  label VARCHAR(60) NOT NULL,
  street VARCHAR(120) NOT NULL,
  town VARCHAR(60) NOT NULL,
  postcode VARCHAR(12) NOT NULL,
  country CHAR(2) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY ship_to_id (id),
  KEY ship_to_customer (company_id, customer_id),
  FOREIGN KEY (company_id, customer_id) REFERENCES customer (company_id, id)
);

CREATE TABLE IF NOT EXISTS vendor (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(12) NOT NULL,
  name VARCHAR(120) NOT NULL,
  phone VARCHAR(40) NOT NULL DEFAULT '',
  currency CHAR(3) NOT NULL,
  payment_terms_id INT UNSIGNED NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY vendor_id (id),
  UNIQUE KEY vendor_number (company_id, number),
  KEY vendor_name (company_id, name),
  FOREIGN KEY (company_id) REFERENCES company (id),
  FOREIGN KEY (company_id, payment_terms_id) REFERENCES payment_terms (company_id, id)
);

CREATE TABLE IF NOT EXISTS item (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(24) NOT NULL,
  name VARCHAR(120) NOT NULL,
  unit VARCHAR(12) NOT NULL,
  list_price DECIMAL(14,4) NOT NULL CHECK (list_price >= 0),
  tax_code_id INT UNSIGNED NOT NULL,
  route ENUM('stock','drop') NOT NULL,
  stocked BOOLEAN NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY item_id (id),
  UNIQUE KEY item_number (company_id, number),
  KEY item_name (company_id, name),
  FOREIGN KEY (company_id) REFERENCES company (id),
  FOREIGN KEY (company_id, tax_code_id) REFERENCES tax_code (company_id, id)
);

-- Who sells an item to us.
CREATE TABLE IF NOT EXISTS item_vendor (
  company_id SMALLINT UNSIGNED NOT NULL,
  item_id INT UNSIGNED NOT NULL,
  vendor_id INT UNSIGNED NOT NULL,
  unit_price DECIMAL(14,4) NOT NULL CHECK (unit_price >= 0),
  lead_days SMALLINT UNSIGNED NOT NULL,
  preferred BOOLEAN NOT NULL DEFAULT FALSE,
  PRIMARY KEY (company_id, item_id, vendor_id),
  KEY item_vendor_vendor (company_id, vendor_id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id),
  FOREIGN KEY (company_id, vendor_id) REFERENCES vendor (company_id, id)
);
