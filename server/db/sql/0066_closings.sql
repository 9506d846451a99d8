-- Lines that were closed short: what they were before, so that it can be undone while nothing stands on it. (S6 S8)
CREATE TABLE IF NOT EXISTS line_closing (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  order_line_id INT UNSIGNED NOT NULL,
  -- Given up by it, and of how much the line was before.
  quantity DECIMAL(18,5) NOT NULL CHECK (quantity > 0),
  amount DECIMAL(18,4) NOT NULL,
  agreed_amount DECIMAL(18,4) NULL,
  -- What was left of the line: where it is another by now, there is nothing to go back to.
  left_amount DECIMAL(18,4) NOT NULL,
  reason VARCHAR(200) NOT NULL,
  undone BOOLEAN NOT NULL DEFAULT FALSE,
  PRIMARY KEY (company_id, id),
  KEY line_closing_id (id),
  KEY line_closing_of (company_id, order_line_id, undone),
  FOREIGN KEY (company_id, order_line_id) REFERENCES sales_order_line (company_id, id)
);
