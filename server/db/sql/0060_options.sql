-- What may go into an item instead of one of its components, or besides them: chosen for an order line. (W1 W2)
CREATE TABLE IF NOT EXISTS option_group (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  item_id INT UNSIGNED NOT NULL,
  name VARCHAR(30) NOT NULL,
  -- The component that stays out where something of the group is chosen; NULL where it comes besides.
  replaces_id INT UNSIGNED NULL,
  at_least TINYINT UNSIGNED NOT NULL DEFAULT 0,
  at_most TINYINT UNSIGNED NOT NULL DEFAULT 1 CHECK (at_most > 0),
  PRIMARY KEY (company_id, id),
  KEY option_group_id (id),
  UNIQUE KEY option_group_name (company_id, item_id, name),
  KEY option_group_replaces (company_id, replaces_id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id),
  FOREIGN KEY (company_id, replaces_id) REFERENCES item (company_id, id)
);

CREATE TABLE IF NOT EXISTS item_option (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  group_id INT UNSIGNED NOT NULL,
  component_id INT UNSIGNED NOT NULL,
  -- For one of the item.
  quantity DECIMAL(18,5) NOT NULL CHECK (quantity > 0),
  -- The operation it is needed at; NULL for that of the component it replaces, or the first.
  operation_no SMALLINT UNSIGNED NULL,
  -- On the price of one, in the company's currency; below zero takes off.
  price DECIMAL(18,4) NOT NULL DEFAULT 0,
  PRIMARY KEY (company_id, id),
  KEY item_option_id (id),
  UNIQUE KEY item_option_component (company_id, group_id, component_id),
  KEY item_option_of (company_id, component_id),
  FOREIGN KEY (company_id, group_id) REFERENCES option_group (company_id, id),
  FOREIGN KEY (company_id, component_id) REFERENCES item (company_id, id)
);

CREATE TABLE IF NOT EXISTS option_rule (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  option_id INT UNSIGNED NOT NULL,
  kind ENUM('needs','excludes') NOT NULL,
  other_id INT UNSIGNED NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY option_rule_id (id),
  UNIQUE KEY option_rule_once (company_id, option_id, kind, other_id),
  KEY option_rule_other (company_id, other_id),
  FOREIGN KEY (company_id, option_id) REFERENCES item_option (company_id, id),
  FOREIGN KEY (company_id, other_id) REFERENCES item_option (company_id, id)
);

-- What was chosen for an order line; none where it is as its item is.
CREATE TABLE IF NOT EXISTS sales_line_option (
  company_id SMALLINT UNSIGNED NOT NULL,
  order_line_id INT UNSIGNED NOT NULL,
  option_id INT UNSIGNED NOT NULL,
  PRIMARY KEY (company_id, order_line_id, option_id),
  KEY sales_line_option_of (company_id, option_id),
  FOREIGN KEY (company_id, order_line_id) REFERENCES sales_order_line (company_id, id) ON DELETE CASCADE,
  FOREIGN KEY (company_id, option_id) REFERENCES item_option (company_id, id)
);
