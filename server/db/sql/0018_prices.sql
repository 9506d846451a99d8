-- Units an item is sold in, the prices kept for it, and what is put on them. (R1, R2, R4, S1)

CREATE TABLE IF NOT EXISTS item_unit (
  company_id SMALLINT UNSIGNED NOT NULL,
  item_id INT UNSIGNED NOT NULL,
  unit VARCHAR(12) NOT NULL,
  -- How many of the item's own unit one of it is.
  factor DECIMAL(18,5) NOT NULL CHECK (factor > 0),
  PRIMARY KEY (company_id, item_id, unit),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id)
);

-- The number a customer calls an item by.
CREATE TABLE IF NOT EXISTS customer_item (
  company_id SMALLINT UNSIGNED NOT NULL,
  customer_id INT UNSIGNED NOT NULL,
  item_id INT UNSIGNED NOT NULL,
  number VARCHAR(40) NOT NULL,
  PRIMARY KEY (company_id, customer_id, item_id),
  UNIQUE KEY customer_item_number (company_id, customer_id, number),
  FOREIGN KEY (company_id, customer_id) REFERENCES customer (company_id, id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id)
);

CREATE TABLE IF NOT EXISTS price_group (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  name VARCHAR(60) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY price_group_id (id),
  UNIQUE KEY price_group_name (company_id, name),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

-- A market price by day, which cost-based prices can stand on.
CREATE TABLE IF NOT EXISTS market_series (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  name VARCHAR(60) NOT NULL,
  unit VARCHAR(12) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY market_series_id (id),
  UNIQUE KEY market_series_name (company_id, name),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

CREATE TABLE IF NOT EXISTS market_value (
  company_id SMALLINT UNSIGNED NOT NULL,
  series_id INT UNSIGNED NOT NULL,
  day DATE NOT NULL,
  value DECIMAL(14,4) NOT NULL CHECK (value > 0),
  PRIMARY KEY (company_id, series_id, day),
  FOREIGN KEY (company_id, series_id) REFERENCES market_series (company_id, id)
);

-- What a kilogram costs to a zone, from a weight on.
CREATE TABLE IF NOT EXISTS freight_band (
  company_id SMALLINT UNSIGNED NOT NULL,
  zone VARCHAR(20) NOT NULL,
  from_weight DECIMAL(12,4) NOT NULL CHECK (from_weight >= 0),
  per_kilogram DECIMAL(14,4) NOT NULL CHECK (per_kilogram >= 0),
  PRIMARY KEY (company_id, zone, from_weight),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

ALTER TABLE company
  -- The first level that has a price, or the lowest price of them all. (R1)
  ADD COLUMN IF NOT EXISTS price_search ENUM('first','best') NOT NULL DEFAULT 'first';

ALTER TABLE item
  -- Kilograms and cubic metres of one of its own unit.
  ADD COLUMN IF NOT EXISTS weight DECIMAL(12,4) NOT NULL DEFAULT 0 CHECK (weight >= 0),
  ADD COLUMN IF NOT EXISTS volume DECIMAL(12,6) NOT NULL DEFAULT 0 CHECK (volume >= 0),
  -- What a full pack holds, and per cent on what is sold below one. (R2)
  ADD COLUMN IF NOT EXISTS pack_size DECIMAL(18,5) NOT NULL DEFAULT 0 CHECK (pack_size >= 0),
  ADD COLUMN IF NOT EXISTS split_charge DECIMAL(5,2) NOT NULL DEFAULT 0 CHECK (split_charge >= 0),
  -- Where its list price is made of a cost. (R1)
  ADD COLUMN IF NOT EXISTS cost_basis ENUM('average','last','series') NULL,
  ADD COLUMN IF NOT EXISTS cost_surcharge DECIMAL(14,4) NOT NULL DEFAULT 0,
  ADD COLUMN IF NOT EXISTS cost_margin DECIMAL(6,2) NOT NULL DEFAULT 0,
  ADD COLUMN IF NOT EXISTS cost_series_id INT UNSIGNED NULL,
  ADD COLUMN IF NOT EXISTS cost_factor DECIMAL(14,5) NOT NULL DEFAULT 1,
  ADD COLUMN IF NOT EXISTS cost_offset DECIMAL(14,4) NOT NULL DEFAULT 0,
  ADD CONSTRAINT item_of_series FOREIGN KEY IF NOT EXISTS (company_id, cost_series_id)
    REFERENCES market_series (company_id, id),
  ADD CONSTRAINT IF NOT EXISTS item_cost_series CHECK ((cost_basis <=> 'series') = (cost_series_id IS NOT NULL));

ALTER TABLE customer
  ADD COLUMN IF NOT EXISTS price_group_id INT UNSIGNED NULL,
  -- Freight is in their prices. (R2)
  ADD COLUMN IF NOT EXISTS delivered_prices BOOLEAN NOT NULL DEFAULT FALSE,
  -- Whether a price is the one of the order's day or of the ship date. (R3)
  ADD COLUMN IF NOT EXISTS price_of ENUM('order','ship') NOT NULL DEFAULT 'order',
  ADD CONSTRAINT customer_price_group FOREIGN KEY IF NOT EXISTS (company_id, price_group_id)
    REFERENCES price_group (company_id, id);

ALTER TABLE ship_to ADD COLUMN IF NOT EXISTS zone VARCHAR(20) NOT NULL DEFAULT '';

-- A price kept for an item: for a customer, a price group, or (both empty) everybody.
CREATE TABLE IF NOT EXISTS price_rule (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  item_id INT UNSIGNED NOT NULL,
  customer_id INT UNSIGNED NULL,
  price_group_id INT UNSIGNED NULL,
  currency CHAR(3) NOT NULL,
  -- The unit it is for and counted in: the item's own, or one of item_unit.
  unit VARCHAR(12) NOT NULL,
  first_day DATE NULL,
  last_day DATE NULL,
  from_quantity DECIMAL(18,5) NOT NULL DEFAULT 0 CHECK (from_quantity >= 0),
  price DECIMAL(14,4) NOT NULL CHECK (price > 0),
  PRIMARY KEY (company_id, id),
  KEY price_rule_id (id),
  -- Serves "the prices of these items for this customer": their own, their group's, everybody's.
  KEY price_rule_item (company_id, item_id, customer_id, price_group_id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id),
  FOREIGN KEY (company_id, customer_id) REFERENCES customer (company_id, id),
  FOREIGN KEY (company_id, price_group_id) REFERENCES price_group (company_id, id),
  CONSTRAINT price_rule_of CHECK (customer_id IS NULL OR price_group_id IS NULL),
  CONSTRAINT price_rule_period CHECK (first_day IS NULL OR last_day IS NULL OR last_day >= first_day)
);

ALTER TABLE sales_order_line
  -- The unit it was sold in; empty for the item's own.
  ADD COLUMN IF NOT EXISTS unit VARCHAR(12) NOT NULL DEFAULT '',
  ADD COLUMN IF NOT EXISTS unit_factor DECIMAL(18,5) NOT NULL DEFAULT 1 CHECK (unit_factor > 0),
  -- What a person typed about the price: for one of the unit sold, why for nothing, per cent off. (R4, S2)
  ADD COLUMN IF NOT EXISTS typed_price DECIMAL(14,4) NULL CHECK (typed_price >= 0),
  ADD COLUMN IF NOT EXISTS price_reason VARCHAR(120) NOT NULL DEFAULT '',
  ADD COLUMN IF NOT EXISTS discount DECIMAL(5,2) NOT NULL DEFAULT 0 CHECK (discount >= 0 AND discount < 100),
  -- The steps of the price as it was made: [{kind, source, amount}].
  ADD COLUMN IF NOT EXISTS build_up LONGTEXT NOT NULL DEFAULT '[]' CHECK (JSON_VALID(build_up));
