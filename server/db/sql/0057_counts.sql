-- Stock is counted by sheets. (W6)
CREATE TABLE IF NOT EXISTS count_sheet (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  version INT UNSIGNED NOT NULL DEFAULT 1,
  location_id SMALLINT UNSIGNED NOT NULL,
  item_group_id INT UNSIGNED NULL,
  state ENUM('open','posted','cancelled') NOT NULL DEFAULT 'open',
  -- Whoever counts is not told what is known to be there.
  blind BOOLEAN NOT NULL DEFAULT FALSE,
  made_by INT UNSIGNED NOT NULL,
  posted_on DATE NULL,
  reason VARCHAR(200) NOT NULL DEFAULT '',
  reverses_id INT UNSIGNED NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, id),
  KEY count_sheet_id (id),
  UNIQUE KEY count_sheet_number (company_id, number),
  UNIQUE KEY count_sheet_reverses (company_id, reverses_id),
  FOREIGN KEY (company_id, location_id) REFERENCES location (company_id, id),
  FOREIGN KEY (company_id, item_group_id) REFERENCES item_group (company_id, id),
  FOREIGN KEY (made_by) REFERENCES person (id),
  FOREIGN KEY (company_id, reverses_id) REFERENCES count_sheet (company_id, id)
);

CREATE TABLE IF NOT EXISTS count_line (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  count_sheet_id INT UNSIGNED NOT NULL,
  line_no SMALLINT UNSIGNED NOT NULL,
  item_id INT UNSIGNED NOT NULL,
  -- What was there when it was counted, as it was known then: what moves later is no difference.
  was DECIMAL(18,5) NULL,
  counted DECIMAL(18,5) NULL CHECK (counted >= 0),
  -- What one costs of what was not known of, where nothing is there to go by.
  unit_cost DECIMAL(18,4) NULL CHECK (unit_cost >= 0),
  counted_by INT UNSIGNED NULL,
  -- As it was posted.
  difference DECIMAL(18,5) NOT NULL DEFAULT 0,
  cost DECIMAL(18,4) NOT NULL DEFAULT 0,
  PRIMARY KEY (company_id, id),
  KEY count_line_id (id),
  UNIQUE KEY count_line_item (company_id, count_sheet_id, item_id),
  -- Serves "is this item being counted".
  KEY count_line_of (company_id, item_id),
  FOREIGN KEY (company_id, count_sheet_id) REFERENCES count_sheet (company_id, id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id),
  FOREIGN KEY (counted_by) REFERENCES person (id),
  CONSTRAINT count_line_both CHECK ((was IS NULL) = (counted IS NULL))
);
