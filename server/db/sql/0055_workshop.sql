-- What is planned to be made is made: orders report what they use, what is worked and what comes of it. (W1 to W5, P3)

-- So many of a planned order are for an order line; one order may serve several. (L1)
CREATE TABLE IF NOT EXISTS planned_tie (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  planned_order_id INT UNSIGNED NOT NULL,
  order_line_id INT UNSIGNED NOT NULL,
  quantity DECIMAL(18,5) NOT NULL CHECK (quantity > 0),
  -- What of it came and was held for the line.
  made DECIMAL(18,5) NOT NULL DEFAULT 0,
  PRIMARY KEY (company_id, id),
  KEY planned_tie_id (id),
  UNIQUE KEY planned_tie_once (company_id, planned_order_id, order_line_id),
  -- Serves "what is planned for this line".
  KEY planned_tie_line (company_id, order_line_id),
  FOREIGN KEY (company_id, planned_order_id) REFERENCES planned_order (company_id, id),
  FOREIGN KEY (company_id, order_line_id) REFERENCES sales_order_line (company_id, id),
  CONSTRAINT planned_tie_made CHECK (made >= 0 AND made <= quantity)
);

-- Gone where this stopped in its last step.
ALTER TABLE planned_order ADD COLUMN IF NOT EXISTS order_line_id INT UNSIGNED NULL;
INSERT IGNORE INTO planned_tie (company_id, planned_order_id, order_line_id, quantity)
SELECT company_id, id, order_line_id, held FROM planned_order WHERE order_line_id IS NOT NULL AND held > 0;

ALTER TABLE planned_order
  DROP CONSTRAINT IF EXISTS planned_order_for_one,
  DROP FOREIGN KEY IF EXISTS planned_order_ibfk_3,
  DROP KEY IF EXISTS planned_order_line;
ALTER TABLE planned_order
  DROP COLUMN IF EXISTS order_line_id,
  -- Pieces that came to nothing; what the whole is reckoned to cost, from its start on; what is in it and came out of it.
  ADD COLUMN IF NOT EXISTS scrapped DECIMAL(18,5) NOT NULL DEFAULT 0 CHECK (scrapped >= 0),
  ADD COLUMN IF NOT EXISTS planned_cost DECIMAL(18,4) NULL,
  ADD COLUMN IF NOT EXISTS in_work DECIMAL(18,4) NOT NULL DEFAULT 0,
  ADD COLUMN IF NOT EXISTS started_on DATE NULL,
  ADD COLUMN IF NOT EXISTS finished_on DATE NULL,
  ADD CONSTRAINT planned_order_made CHECK (finished >= 0 AND finished + scrapped <= quantity);

ALTER TABLE planned_component
  -- The operation it is used at; NULL for the first.
  ADD COLUMN IF NOT EXISTS operation_no SMALLINT UNSIGNED NULL,
  ADD COLUMN IF NOT EXISTS planned_cost DECIMAL(18,4) NOT NULL DEFAULT 0;

ALTER TABLE planned_operation
  -- Pieces that passed it, and that were lost at it; the minutes it took.
  ADD COLUMN IF NOT EXISTS done DECIMAL(18,5) NOT NULL DEFAULT 0 CHECK (done >= 0),
  ADD COLUMN IF NOT EXISTS scrapped DECIMAL(18,5) NOT NULL DEFAULT 0 CHECK (scrapped >= 0),
  ADD COLUMN IF NOT EXISTS minutes_done INT NOT NULL DEFAULT 0 CHECK (minutes_done >= 0),
  ADD COLUMN IF NOT EXISTS planned_cost DECIMAL(18,4) NOT NULL DEFAULT 0,
  -- Serves "what is next at this centre".
  ADD KEY IF NOT EXISTS planned_operation_centre (company_id, work_centre_id, first_day);

ALTER TABLE work_centre
  -- What an hour on one of its machines is reckoned at.
  ADD COLUMN IF NOT EXISTS hour_cost DECIMAL(18,4) NOT NULL DEFAULT 0 CHECK (hour_cost >= 0);

CREATE TABLE IF NOT EXISTS work_report (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  planned_order_id INT UNSIGNED NOT NULL,
  -- The operation it was reported at; NULL for the order as a whole.
  operation_id INT UNSIGNED NULL,
  person_id INT UNSIGNED NOT NULL,
  posted_on DATE NOT NULL,
  -- What came of the order, and was lost of it.
  good DECIMAL(18,5) NOT NULL,
  scrapped DECIMAL(18,5) NOT NULL,
  material_cost DECIMAL(18,4) NOT NULL,
  labour_cost DECIMAL(18,4) NOT NULL,
  output_cost DECIMAL(18,4) NOT NULL,
  scrap_cost DECIMAL(18,4) NOT NULL,
  variance DECIMAL(18,4) NOT NULL,
  -- Taken back: what the goods were worth less by then than they came out at.
  stock_difference DECIMAL(18,4) NOT NULL DEFAULT 0,
  -- What of the good ones went to the order it is for, and what that need not expect any more.
  for_parent DECIMAL(18,5) NOT NULL DEFAULT 0,
  parent_released DECIMAL(18,5) NOT NULL DEFAULT 0,
  finishes BOOLEAN NOT NULL DEFAULT FALSE,
  reason VARCHAR(200) NOT NULL DEFAULT '',
  reverses_id INT UNSIGNED NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, id),
  KEY work_report_id (id),
  UNIQUE KEY work_report_number (company_id, number),
  UNIQUE KEY work_report_reverses (company_id, reverses_id),
  KEY work_report_order (company_id, planned_order_id, id),
  FOREIGN KEY (company_id, planned_order_id) REFERENCES planned_order (company_id, id),
  FOREIGN KEY (company_id, operation_id) REFERENCES planned_operation (company_id, id),
  FOREIGN KEY (person_id) REFERENCES person (id),
  FOREIGN KEY (company_id, reverses_id) REFERENCES work_report (company_id, id)
);

CREATE TABLE IF NOT EXISTS work_report_component (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  report_id INT UNSIGNED NOT NULL,
  component_id INT UNSIGNED NOT NULL,
  item_id INT UNSIGNED NOT NULL,
  quantity DECIMAL(18,5) NOT NULL,
  cost DECIMAL(18,4) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY work_report_component_id (id),
  KEY work_report_component_of (company_id, report_id),
  KEY work_report_component_used (company_id, component_id),
  FOREIGN KEY (company_id, report_id) REFERENCES work_report (company_id, id),
  FOREIGN KEY (company_id, component_id) REFERENCES planned_component (company_id, id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id)
);

CREATE TABLE IF NOT EXISTS work_report_operation (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  report_id INT UNSIGNED NOT NULL,
  operation_id INT UNSIGNED NOT NULL,
  done DECIMAL(18,5) NOT NULL,
  scrapped DECIMAL(18,5) NOT NULL,
  minutes INT NOT NULL,
  cost DECIMAL(18,4) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY work_report_operation_id (id),
  KEY work_report_operation_of (company_id, report_id),
  KEY work_report_operation_done (company_id, operation_id),
  FOREIGN KEY (company_id, report_id) REFERENCES work_report (company_id, id),
  FOREIGN KEY (company_id, operation_id) REFERENCES planned_operation (company_id, id)
);

-- What a report made for order lines, and what of their ties it let go of at the end.
CREATE TABLE IF NOT EXISTS work_report_tie (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  report_id INT UNSIGNED NOT NULL,
  order_line_id INT UNSIGNED NOT NULL,
  made DECIMAL(18,5) NOT NULL,
  released DECIMAL(18,5) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY work_report_tie_id (id),
  KEY work_report_tie_of (company_id, report_id),
  -- Serves "what was made for this line".
  KEY work_report_tie_line (company_id, order_line_id),
  FOREIGN KEY (company_id, report_id) REFERENCES work_report (company_id, id),
  FOREIGN KEY (company_id, order_line_id) REFERENCES sales_order_line (company_id, id)
);

INSERT INTO account (company_id, code, name, posting_role)
SELECT c.id, r.code, r.name, r.role FROM company c
  JOIN (SELECT '1250' AS code, 'Work in progress' AS name, 'work-in-progress' AS role
        UNION ALL SELECT '5400', 'Labour absorbed', 'labour-absorbed'
        UNION ALL SELECT '5410', 'Scrap', 'scrap'
        UNION ALL SELECT '5420', 'Production variance', 'production-variance') r
 WHERE NOT EXISTS (SELECT 1 FROM account a WHERE a.company_id = c.id AND a.posting_role = r.role);

-- Who reports work.
UPDATE role SET rights = JSON_ARRAY_APPEND(rights, '$', 'work')
 WHERE name IN ('Planner', 'Stock keeper', 'Order administrator') AND NOT JSON_CONTAINS(rights, '"work"');
INSERT IGNORE INTO role (company_id, name, rights) SELECT id, 'Workshop', '["work"]' FROM company;

CREATE OR REPLACE TRIGGER work_report_no_update BEFORE UPDATE ON work_report FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'work_report is written once';
CREATE OR REPLACE TRIGGER work_report_no_delete BEFORE DELETE ON work_report FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'work_report is written once';
CREATE OR REPLACE TRIGGER work_report_component_no_update BEFORE UPDATE ON work_report_component FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'work_report_component is written once';
CREATE OR REPLACE TRIGGER work_report_component_no_delete BEFORE DELETE ON work_report_component FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'work_report_component is written once';
CREATE OR REPLACE TRIGGER work_report_operation_no_update BEFORE UPDATE ON work_report_operation FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'work_report_operation is written once';
CREATE OR REPLACE TRIGGER work_report_operation_no_delete BEFORE DELETE ON work_report_operation FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'work_report_operation is written once';
CREATE OR REPLACE TRIGGER work_report_tie_no_update BEFORE UPDATE ON work_report_tie FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'work_report_tie is written once';
CREATE OR REPLACE TRIGGER work_report_tie_no_delete BEFORE DELETE ON work_report_tie FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'work_report_tie is written once';
