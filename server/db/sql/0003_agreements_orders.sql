-- The demand: blanket agreements, releases, sales orders.

CREATE TABLE IF NOT EXISTS agreement (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  version INT UNSIGNED NOT NULL DEFAULT 1,
  state ENUM('draft','in-force','paused','ended','cancelled') NOT NULL DEFAULT 'draft',
  customer_id INT UNSIGNED NOT NULL,
  title VARCHAR(120) NOT NULL DEFAULT '',
  currency CHAR(3) NOT NULL,
  first_day DATE NOT NULL,
  last_day DATE NOT NULL,
  signed_on DATE NULL,
  limit_policy ENUM('refuse','warn') NOT NULL,
  tolerance_percent DECIMAL(5,2) NOT NULL DEFAULT 0 CHECK (tolerance_percent >= 0),
  -- Kept by the acts, proven by verify: what lists sort by. (A4)
  committed_value DECIMAL(18,4) NOT NULL DEFAULT 0,
  released_value DECIMAL(18,4) NOT NULL DEFAULT 0,
  shipped_value DECIMAL(18,4) NOT NULL DEFAULT 0,
  invoiced_value DECIMAL(18,4) NOT NULL DEFAULT 0,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, id),
  KEY agreement_id (id),
  UNIQUE KEY agreement_number (company_id, number),
  KEY agreement_customer (company_id, customer_id),
  -- Serves the list filtered by state, newest first.
  KEY agreement_state (company_id, state, id),
  FOREIGN KEY (company_id, customer_id) REFERENCES customer (company_id, id),
  CONSTRAINT agreement_period CHECK (last_day >= first_day)
);

CREATE TABLE IF NOT EXISTS agreement_line (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  agreement_id INT UNSIGNED NOT NULL,
  line_no SMALLINT UNSIGNED NOT NULL,
  item_id INT UNSIGNED NOT NULL,
  committed DECIMAL(18,5) NOT NULL CHECK (committed > 0),
  unit_price DECIMAL(14,4) NOT NULL CHECK (unit_price > 0),
  released DECIMAL(18,5) NOT NULL DEFAULT 0 CHECK (released >= 0),
  shipped DECIMAL(18,5) NOT NULL DEFAULT 0 CHECK (shipped >= 0),
  invoiced DECIMAL(18,5) NOT NULL DEFAULT 0 CHECK (invoiced >= 0),
  released_value DECIMAL(18,4) NOT NULL DEFAULT 0,
  shipped_value DECIMAL(18,4) NOT NULL DEFAULT 0,
  invoiced_value DECIMAL(18,4) NOT NULL DEFAULT 0,
  PRIMARY KEY (company_id, id),
  KEY agreement_line_id (id),
  UNIQUE KEY agreement_line_no (company_id, agreement_id, line_no),
  UNIQUE KEY agreement_line_item (company_id, agreement_id, item_id),
  KEY agreement_line_of_item (company_id, item_id),
  FOREIGN KEY (company_id, agreement_id) REFERENCES agreement (company_id, id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id),
  CONSTRAINT agreement_line_flow CHECK (shipped <= released AND invoiced <= shipped)
);

CREATE TABLE IF NOT EXISTS sales_order (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  version INT UNSIGNED NOT NULL DEFAULT 1,
  state ENUM('draft','confirmed','closed','cancelled') NOT NULL DEFAULT 'draft',
  customer_id INT UNSIGNED NOT NULL,
  agreement_id INT UNSIGNED NULL,
  ship_to_id INT UNSIGNED NULL,
  customer_reference VARCHAR(60) NOT NULL DEFAULT '',
  order_date DATE NOT NULL,
  currency CHAR(3) NOT NULL,
  -- Kept by the acts: the first ship date still open and the value, what lists show and sort by.
  first_ship_date DATE NULL,
  net DECIMAL(18,4) NOT NULL DEFAULT 0,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, id),
  KEY sales_order_id (id),
  UNIQUE KEY sales_order_number (company_id, number),
  KEY sales_order_customer (company_id, customer_id),
  -- Serves "the documents of this agreement".
  KEY sales_order_agreement (company_id, agreement_id),
  -- Serves the list filtered by state, newest first.
  KEY sales_order_state (company_id, state, id),
  FOREIGN KEY (company_id, customer_id) REFERENCES customer (company_id, id),
  FOREIGN KEY (company_id, agreement_id) REFERENCES agreement (company_id, id),
  FOREIGN KEY (company_id, ship_to_id) REFERENCES ship_to (company_id, id)
);

CREATE TABLE IF NOT EXISTS sales_order_line (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  order_id INT UNSIGNED NOT NULL,
  line_no SMALLINT UNSIGNED NOT NULL,
  item_id INT UNSIGNED NOT NULL,
  agreement_line_id INT UNSIGNED NULL,
  quantity DECIMAL(18,5) NOT NULL CHECK (quantity > 0),
  cancelled DECIMAL(18,5) NOT NULL DEFAULT 0,
  unit_price DECIMAL(14,4) NOT NULL CHECK (unit_price >= 0),
  list_price DECIMAL(14,4) NOT NULL,
  amount DECIMAL(18,4) NOT NULL,
  tax_code_id INT UNSIGNED NOT NULL,
  tax_rate DECIMAL(5,2) NOT NULL,
  route ENUM('stock','drop') NOT NULL,
  ship_date DATE NOT NULL,
  -- Counters kept by the acts, proven by verify.
  tied DECIMAL(18,5) NOT NULL DEFAULT 0,
  shipped DECIMAL(18,5) NOT NULL DEFAULT 0,
  invoiced DECIMAL(18,5) NOT NULL DEFAULT 0,
  -- True while the line is confirmed and still needs a purchase: what the bench reads.
  on_bench BOOLEAN NOT NULL DEFAULT FALSE,
  PRIMARY KEY (company_id, id),
  KEY sales_order_line_id (id),
  UNIQUE KEY sales_order_line_no (company_id, order_id, line_no),
  KEY sales_order_line_item (company_id, item_id),
  KEY sales_order_line_agreement (company_id, agreement_line_id),
  -- Serves the bench, soonest ship date first.
  KEY sales_order_line_bench (company_id, on_bench, ship_date, id),
  FOREIGN KEY (company_id, order_id) REFERENCES sales_order (company_id, id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id),
  FOREIGN KEY (company_id, agreement_line_id) REFERENCES agreement_line (company_id, id),
  FOREIGN KEY (company_id, tax_code_id) REFERENCES tax_code (company_id, id),
  CONSTRAINT sales_order_line_counts CHECK (
    cancelled >= 0 AND cancelled <= quantity
    AND tied >= 0 AND tied <= quantity - cancelled
    AND shipped >= 0 AND shipped <= quantity - cancelled
    AND invoiced >= 0 AND invoiced <= shipped
  )
);
