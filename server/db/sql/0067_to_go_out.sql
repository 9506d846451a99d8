-- Goods of several orders that go to one address together stand on one shipment, which then names no order itself. (S9)
ALTER TABLE shipment MODIFY COLUMN order_id INT UNSIGNED NULL;

-- What goes out from our places, soonest first: serves the day's sheet.
ALTER TABLE sales_order_line
  ADD KEY IF NOT EXISTS sales_order_line_going (company_id, owed, ship_date, id);

-- What is short as it was last looked: a line with less than it needs by its ship date, and what would end that. Told in
-- Today; written again by the clock for the items of documents that changed. No key to the line: whoever ships does not
-- wait for the look. (S9)
CREATE TABLE IF NOT EXISTS short_line (
  company_id SMALLINT UNSIGNED NOT NULL,
  order_line_id INT UNSIGNED NOT NULL,
  item_id INT UNSIGNED NOT NULL,
  ship_date DATE NOT NULL,
  quantity DECIMAL(18,5) NOT NULL,
  -- Of it, what nothing brings.
  missing DECIMAL(18,5) NOT NULL,
  -- The day the last of the rest comes, and with which document.
  ends_on DATE NULL,
  ends_by VARCHAR(16) NOT NULL DEFAULT '',
  PRIMARY KEY (company_id, order_line_id),
  -- Serves Today, soonest first.
  KEY short_line_day (company_id, ship_date, order_line_id),
  KEY short_line_item (company_id, item_id),
  FOREIGN KEY (company_id) REFERENCES company (id),
  CONSTRAINT short_line_counts CHECK (quantity > 0 AND missing >= 0 AND missing <= quantity)
);

-- Through which audit row what is short was looked for, and on which day: the first look of a day looks at all.
CREATE TABLE IF NOT EXISTS short_look (
  company_id SMALLINT UNSIGNED NOT NULL PRIMARY KEY,
  audit_id BIGINT UNSIGNED NOT NULL,
  looked_on DATE NULL,
  FOREIGN KEY (company_id) REFERENCES company (id)
);
