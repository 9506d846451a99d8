-- Pieces with numbers of their own: made or come once, in one place always, their whole life kept. (P6, W7)

-- Items that are kept by number, and how their numbers are made; empty where they are typed.
CREATE TABLE IF NOT EXISTS serial_series (
  company_id SMALLINT UNSIGNED NOT NULL,
  item_id INT UNSIGNED NOT NULL,
  pattern VARCHAR(40) NOT NULL DEFAULT '',
  -- The count of the next number that is made.
  next_count INT UNSIGNED NOT NULL DEFAULT 1,
  PRIMARY KEY (company_id, item_id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id)
);

CREATE TABLE IF NOT EXISTS serial (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  item_id INT UNSIGNED NOT NULL,
  number VARCHAR(40) NOT NULL,
  -- At our place, at a customer's, used in production, or out: written off, sent back, not made after all.
  place ENUM('ours','customer','used','out') NOT NULL,
  location_id SMALLINT UNSIGNED NOT NULL DEFAULT 0,
  -- The line it was made or came for, or went out on.
  order_line_id INT UNSIGNED NULL,
  -- The order it was used in.
  planned_order_id INT UNSIGNED NULL,
  -- What it first came with.
  born_kind CHAR(2) NOT NULL,
  born_id INT UNSIGNED NOT NULL,
  born_on DATE NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY serial_id (id),
  UNIQUE KEY serial_number (company_id, item_id, number),
  -- Serves the list by number over all items, and finding one.
  KEY serial_by_number (company_id, number, id),
  -- Serves the list of a state.
  KEY serial_state (company_id, place, number, id),
  -- Serves "which are here".
  KEY serial_here (company_id, place, item_id, location_id),
  KEY serial_line (company_id, order_line_id),
  -- Serves "what came of this order".
  KEY serial_born (company_id, born_kind, born_id),
  KEY serial_used (company_id, planned_order_id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id),
  FOREIGN KEY (company_id, location_id) REFERENCES location (company_id, id),
  FOREIGN KEY (company_id, order_line_id) REFERENCES sales_order_line (company_id, id),
  FOREIGN KEY (company_id, planned_order_id) REFERENCES planned_order (company_id, id)
);

-- Which product a used piece is part of.
CREATE TABLE IF NOT EXISTS serial_part (
  company_id SMALLINT UNSIGNED NOT NULL,
  part_id INT UNSIGNED NOT NULL,
  product_id INT UNSIGNED NOT NULL,
  PRIMARY KEY (company_id, part_id),
  KEY serial_part_of (company_id, product_id),
  FOREIGN KEY (company_id, part_id) REFERENCES serial (company_id, id),
  FOREIGN KEY (company_id, product_id) REFERENCES serial (company_id, id)
);

-- A piece came to one of our places or left it, with a document that moved stock.
CREATE TABLE IF NOT EXISTS serial_entry (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  serial_id INT UNSIGNED NOT NULL,
  document_kind CHAR(2) NOT NULL,
  document_id INT UNSIGNED NOT NULL,
  location_id SMALLINT UNSIGNED NOT NULL DEFAULT 0,
  quantity TINYINT NOT NULL,
  order_line_id INT UNSIGNED NULL,
  posted_on DATE NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY serial_entry_id (id),
  KEY serial_entry_life (company_id, serial_id, id),
  KEY serial_entry_with (company_id, document_kind, document_id),
  KEY serial_entry_line (company_id, order_line_id),
  FOREIGN KEY (company_id, serial_id) REFERENCES serial (company_id, id),
  FOREIGN KEY (company_id, location_id) REFERENCES location (company_id, id),
  FOREIGN KEY (company_id, order_line_id) REFERENCES sales_order_line (company_id, id),
  CONSTRAINT serial_entry_one CHECK (quantity IN (-1, 1))
);

-- The numbers that were counted, and what that says of each.
CREATE TABLE IF NOT EXISTS count_number (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  count_line_id INT UNSIGNED NOT NULL,
  number VARCHAR(40) NOT NULL,
  says ENUM('here','missing','found') NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY count_number_id (id),
  UNIQUE KEY count_number_once (company_id, count_line_id, number),
  FOREIGN KEY (company_id, count_line_id) REFERENCES count_line (company_id, id) ON DELETE CASCADE
);

CREATE OR REPLACE TRIGGER serial_entry_no_update BEFORE UPDATE ON serial_entry FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'serial_entry is written once';
CREATE OR REPLACE TRIGGER serial_entry_no_delete BEFORE DELETE ON serial_entry FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'serial_entry is written once';
CREATE OR REPLACE TRIGGER serial_no_delete BEFORE DELETE ON serial FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'a serial number is kept';
