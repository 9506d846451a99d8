-- Standing orders: what a customer gets again and again, made ahead once for each date. (S7)

CREATE TABLE IF NOT EXISTS standing_order (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  version INT UNSIGNED NOT NULL DEFAULT 1,
  state ENUM('active', 'paused', 'ended') NOT NULL DEFAULT 'active',
  customer_id INT UNSIGNED NOT NULL,
  ship_to_id INT UNSIGNED NOT NULL,
  customer_reference VARCHAR(60) NOT NULL DEFAULT '',
  first_day DATE NOT NULL,
  last_day DATE NULL,
  ahead_days SMALLINT UNSIGNED NOT NULL DEFAULT 3,
  closed ENUM('skip', 'before', 'after') NOT NULL DEFAULT 'after',
  -- When something of it is to be made next; NULL where nothing is.
  due_on DATE NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, id),
  KEY standing_order_id (id),
  UNIQUE KEY standing_order_number (company_id, number),
  KEY standing_order_customer (company_id, customer_id, id),
  -- Serves the clock: what is due.
  KEY standing_order_due (company_id, state, due_on, id),
  FOREIGN KEY (company_id, customer_id) REFERENCES customer (company_id, id),
  FOREIGN KEY (company_id, ship_to_id) REFERENCES ship_to (company_id, id),
  CONSTRAINT standing_order_days CHECK (last_day IS NULL OR last_day >= first_day)
);

-- What it says from a day on: a change holds from its day, and what was made before stays.
CREATE TABLE IF NOT EXISTS standing_term (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  standing_order_id INT UNSIGNED NOT NULL,
  from_day DATE NOT NULL,
  -- RFC 5545
  rule VARCHAR(200) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY standing_term_id (id),
  UNIQUE KEY standing_term_from (company_id, standing_order_id, from_day),
  FOREIGN KEY (company_id, standing_order_id) REFERENCES standing_order (company_id, id)
);

CREATE TABLE IF NOT EXISTS standing_line (
  company_id SMALLINT UNSIGNED NOT NULL,
  term_id INT UNSIGNED NOT NULL,
  line_no SMALLINT UNSIGNED NOT NULL,
  item_id INT UNSIGNED NOT NULL,
  quantity DECIMAL(18,5) NOT NULL CHECK (quantity > 0),
  -- Empty for the item's own.
  unit VARCHAR(12) NOT NULL DEFAULT '',
  PRIMARY KEY (company_id, term_id, line_no),
  KEY standing_line_item (company_id, item_id),
  FOREIGN KEY (company_id, term_id) REFERENCES standing_term (company_id, id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id)
);

-- What was said or done about a date: its key makes each once, whoever makes it.
CREATE TABLE IF NOT EXISTS standing_date (
  company_id SMALLINT UNSIGNED NOT NULL,
  standing_order_id INT UNSIGNED NOT NULL,
  day DATE NOT NULL,
  state ENUM('skipped', 'made', 'refused') NOT NULL,
  order_id INT UNSIGNED NULL,
  -- Why it is skipped or refused, or what stood against confirming its order.
  why VARCHAR(400) NOT NULL DEFAULT '',
  -- A person is to see to it: Today.
  needs BOOLEAN AS (IF(state = 'refused' OR (state = 'made' AND why <> ''), TRUE, NULL)) PERSISTENT,
  PRIMARY KEY (company_id, standing_order_id, day),
  UNIQUE KEY standing_date_order (company_id, order_id),
  KEY standing_date_needs (company_id, needs, day),
  FOREIGN KEY (company_id, standing_order_id) REFERENCES standing_order (company_id, id),
  FOREIGN KEY (company_id, order_id) REFERENCES sales_order (company_id, id),
  CONSTRAINT standing_date_made CHECK ((state = 'made') = (order_id IS NOT NULL))
);
