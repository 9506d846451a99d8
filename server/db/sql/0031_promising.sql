-- What promises are computed on: calendars, work centres, BOMs, routings, planned orders. (T1 to T8)

CREATE TABLE IF NOT EXISTS calendar (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  name VARCHAR(60) NOT NULL,
  -- Seven of 0 and 1, Monday first.
  week CHAR(7) NOT NULL CHECK (week REGEXP '^[01]{7}$'),
  PRIMARY KEY (company_id, id),
  KEY calendar_id (id),
  UNIQUE KEY calendar_name (company_id, name),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

CREATE TABLE IF NOT EXISTS holiday (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  calendar_id INT UNSIGNED NOT NULL,
  day DATE NOT NULL,
  name VARCHAR(60) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY holiday_id (id),
  UNIQUE KEY holiday_day (company_id, calendar_id, day),
  FOREIGN KEY (company_id, calendar_id) REFERENCES calendar (company_id, id)
);

ALTER TABLE company
  ADD COLUMN IF NOT EXISTS calendar_id INT UNSIGNED NULL,
  -- Working days between the goods' arrival and the shelf, and those kept in hand. (T3)
  ADD COLUMN IF NOT EXISTS receiving_days TINYINT UNSIGNED NOT NULL DEFAULT 0,
  ADD COLUMN IF NOT EXISTS safety_days TINYINT UNSIGNED NOT NULL DEFAULT 0,
  ADD CONSTRAINT company_calendar FOREIGN KEY IF NOT EXISTS (id, calendar_id) REFERENCES calendar (company_id, id);

INSERT IGNORE INTO calendar (company_id, name, week) SELECT id, 'Five days', '1111100' FROM company;
UPDATE company c JOIN calendar k ON k.company_id = c.id AND k.name = 'Five days'
   SET c.calendar_id = k.id WHERE c.calendar_id IS NULL;

-- A vendor without a calendar works by ours.
ALTER TABLE vendor
  ADD COLUMN IF NOT EXISTS calendar_id INT UNSIGNED NULL,
  ADD CONSTRAINT vendor_calendar FOREIGN KEY IF NOT EXISTS (company_id, calendar_id) REFERENCES calendar (company_id, id);

CREATE TABLE IF NOT EXISTS work_centre (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  code VARCHAR(12) NOT NULL,
  name VARCHAR(60) NOT NULL,
  machines SMALLINT UNSIGNED NOT NULL CHECK (machines > 0),
  -- Minutes of a working day; none while it stands still.
  shift_minutes SMALLINT UNSIGNED NOT NULL CHECK (shift_minutes <= 1440),
  calendar_id INT UNSIGNED NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY work_centre_id (id),
  UNIQUE KEY work_centre_code (company_id, code),
  FOREIGN KEY (company_id) REFERENCES company (id),
  FOREIGN KEY (company_id, calendar_id) REFERENCES calendar (company_id, id)
);

ALTER TABLE item
  ADD COLUMN IF NOT EXISTS obtained ENUM('buy','make','assemble','none') NOT NULL DEFAULT 'buy',
  ADD COLUMN IF NOT EXISTS promise_method ENUM('atp','ctp','lead','none') NOT NULL DEFAULT 'atp',
  ADD COLUMN IF NOT EXISTS safety_stock DECIMAL(18,5) NOT NULL DEFAULT 0 CHECK (safety_stock >= 0),
  ADD COLUMN IF NOT EXISTS lot_minimum DECIMAL(18,5) NOT NULL DEFAULT 0 CHECK (lot_minimum >= 0),
  ADD COLUMN IF NOT EXISTS lot_multiple DECIMAL(18,5) NOT NULL DEFAULT 0 CHECK (lot_multiple >= 0),
  ADD COLUMN IF NOT EXISTS phantom BOOLEAN NOT NULL DEFAULT FALSE,
  ADD COLUMN IF NOT EXISTS make_days SMALLINT UNSIGNED NOT NULL DEFAULT 0;

CREATE TABLE IF NOT EXISTS bom_line (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  item_id INT UNSIGNED NOT NULL,
  line_no SMALLINT UNSIGNED NOT NULL,
  component_id INT UNSIGNED NOT NULL,
  -- For one of the item.
  quantity DECIMAL(18,5) NOT NULL CHECK (quantity > 0),
  scrap_percent DECIMAL(5,2) NOT NULL DEFAULT 0 CHECK (scrap_percent >= 0),
  -- The operation it is needed at; NULL for the first.
  operation_no SMALLINT UNSIGNED NULL,
  first_day DATE NULL,
  last_day DATE NULL,
  PRIMARY KEY (company_id, id),
  KEY bom_line_id (id),
  UNIQUE KEY bom_line_no (company_id, item_id, line_no),
  KEY bom_line_component (company_id, component_id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id),
  FOREIGN KEY (company_id, component_id) REFERENCES item (company_id, id)
);

CREATE TABLE IF NOT EXISTS routing_operation (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  item_id INT UNSIGNED NOT NULL,
  no SMALLINT UNSIGNED NOT NULL,
  name VARCHAR(60) NOT NULL,
  work_centre_id INT UNSIGNED NOT NULL,
  setup_minutes DECIMAL(8,2) NOT NULL DEFAULT 0 CHECK (setup_minutes >= 0),
  run_minutes DECIMAL(8,2) NOT NULL CHECK (run_minutes >= 0),
  -- Machines it may use side by side.
  parallel SMALLINT UNSIGNED NOT NULL DEFAULT 1 CHECK (parallel > 0),
  PRIMARY KEY (company_id, id),
  KEY routing_operation_id (id),
  UNIQUE KEY routing_operation_no (company_id, item_id, no),
  KEY routing_operation_centre (company_id, work_centre_id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id),
  FOREIGN KEY (company_id, work_centre_id) REFERENCES work_centre (company_id, id)
);

-- What will be made or bought: for a sales line, for another planned order, or for stock.
CREATE TABLE IF NOT EXISTS planned_order (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  version INT UNSIGNED NOT NULL DEFAULT 1,
  kind ENUM('make','assemble','buy') NOT NULL,
  state ENUM('planned','firm','running','finished','cancelled') NOT NULL DEFAULT 'planned',
  item_id INT UNSIGNED NOT NULL,
  quantity DECIMAL(18,5) NOT NULL CHECK (quantity > 0),
  finished DECIMAL(18,5) NOT NULL DEFAULT 0,
  start_date DATE NOT NULL,
  due_date DATE NOT NULL,
  vendor_id INT UNSIGNED NULL,
  -- One of the two, or neither; of its quantity so much is held for it.
  order_line_id INT UNSIGNED NULL,
  parent_id INT UNSIGNED NULL,
  held DECIMAL(18,5) NOT NULL DEFAULT 0,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  open BOOLEAN AS (state IN ('planned','firm','running')) PERSISTENT,
  PRIMARY KEY (company_id, id),
  KEY planned_order_id (id),
  UNIQUE KEY planned_order_number (company_id, number),
  -- Serves "what is planned of this item", soonest first.
  KEY planned_order_item (company_id, item_id, open, due_date),
  -- Serves "what is planned for this line" and "for this order".
  KEY planned_order_line (company_id, order_line_id, open),
  KEY planned_order_parent (company_id, parent_id, open),
  -- Serves the list of what is planned, soonest first.
  KEY planned_order_open (company_id, open, due_date, id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id),
  FOREIGN KEY (company_id, vendor_id) REFERENCES vendor (company_id, id),
  FOREIGN KEY (company_id, order_line_id) REFERENCES sales_order_line (company_id, id),
  FOREIGN KEY (company_id, parent_id) REFERENCES planned_order (company_id, id),
  CONSTRAINT planned_order_held CHECK (held >= 0 AND held <= quantity),
  CONSTRAINT planned_order_for_one CHECK (order_line_id IS NULL OR parent_id IS NULL)
);

CREATE TABLE IF NOT EXISTS planned_component (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  planned_order_id INT UNSIGNED NOT NULL,
  item_id INT UNSIGNED NOT NULL,
  quantity DECIMAL(18,5) NOT NULL CHECK (quantity > 0),
  -- What planned orders below it bring.
  covered DECIMAL(18,5) NOT NULL DEFAULT 0,
  used DECIMAL(18,5) NOT NULL DEFAULT 0,
  needed_on DATE NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY planned_component_id (id),
  KEY planned_component_order (company_id, planned_order_id),
  KEY planned_component_item (company_id, item_id, needed_on),
  FOREIGN KEY (company_id, planned_order_id) REFERENCES planned_order (company_id, id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id),
  CONSTRAINT planned_component_counts CHECK (covered >= 0 AND covered <= quantity AND used >= 0)
);

CREATE TABLE IF NOT EXISTS planned_operation (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  planned_order_id INT UNSIGNED NOT NULL,
  no SMALLINT UNSIGNED NOT NULL,
  name VARCHAR(60) NOT NULL,
  work_centre_id INT UNSIGNED NOT NULL,
  minutes INT UNSIGNED NOT NULL,
  first_day DATE NOT NULL,
  last_day DATE NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY planned_operation_id (id),
  UNIQUE KEY planned_operation_no (company_id, planned_order_id, no),
  FOREIGN KEY (company_id, planned_order_id) REFERENCES planned_order (company_id, id),
  FOREIGN KEY (company_id, work_centre_id) REFERENCES work_centre (company_id, id)
);

-- Minutes an operation takes of a work centre on a day. Those of orders that are not open are taken away. (T5)
CREATE TABLE IF NOT EXISTS centre_load (
  company_id SMALLINT UNSIGNED NOT NULL,
  work_centre_id INT UNSIGNED NOT NULL,
  day DATE NOT NULL,
  planned_operation_id INT UNSIGNED NOT NULL,
  minutes INT UNSIGNED NOT NULL CHECK (minutes > 0),
  PRIMARY KEY (company_id, work_centre_id, day, planned_operation_id),
  KEY centre_load_operation (company_id, planned_operation_id),
  FOREIGN KEY (company_id, work_centre_id) REFERENCES work_centre (company_id, id),
  FOREIGN KEY (company_id, planned_operation_id) REFERENCES planned_operation (company_id, id)
);

ALTER TABLE sales_order_line
  -- The ship date they asked for, and the one that was promised with the way it was found. (T8)
  ADD COLUMN IF NOT EXISTS asked_date DATE NULL,
  ADD COLUMN IF NOT EXISTS promised_date DATE NULL,
  ADD COLUMN IF NOT EXISTS promised_by ENUM('atp','have','nothing','lead') NULL,
  -- Still to go out of our stock: serves "what of this item is owed", soonest first. (T1)
  ADD COLUMN IF NOT EXISTS owed BOOLEAN AS (route <> 'drop' AND shipped < quantity - cancelled) PERSISTENT,
  ADD KEY IF NOT EXISTS sales_order_line_owed (company_id, item_id, owed, ship_date);

-- One promise is accepted at a time in a company: the row that says whose turn it is.
CREATE TABLE IF NOT EXISTS promise_turn (
  company_id SMALLINT UNSIGNED NOT NULL,
  PRIMARY KEY (company_id),
  FOREIGN KEY (company_id) REFERENCES company (id)
);
INSERT IGNORE INTO promise_turn (company_id) SELECT id FROM company;

-- Planners come with it.
INSERT IGNORE INTO role (company_id, name, rights)
SELECT id, 'Planner', '["orders","purchases","plan","lists","send","work-date"]' FROM company;
UPDATE role SET rights = JSON_ARRAY_APPEND(rights, '$', 'plan')
 WHERE name = 'Order administrator' AND NOT JSON_CONTAINS(rights, '"plan"');
