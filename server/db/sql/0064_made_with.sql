-- What was chosen of the options of what an order makes; none where it is made as its item is. (W2 L5)
CREATE TABLE IF NOT EXISTS planned_order_option (
  company_id SMALLINT UNSIGNED NOT NULL,
  planned_order_id INT UNSIGNED NOT NULL,
  option_id INT UNSIGNED NOT NULL,
  PRIMARY KEY (company_id, planned_order_id, option_id),
  KEY planned_order_option_of (company_id, option_id),
  FOREIGN KEY (company_id, planned_order_id) REFERENCES planned_order (company_id, id) ON DELETE CASCADE,
  FOREIGN KEY (company_id, option_id) REFERENCES item_option (company_id, id)
);

INSERT IGNORE INTO planned_order_option (company_id, planned_order_id, option_id)
  SELECT t.company_id, t.planned_order_id, o.option_id FROM planned_tie t
    JOIN sales_line_option o ON o.company_id = t.company_id AND o.order_line_id = t.order_line_id;
