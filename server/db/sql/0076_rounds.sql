-- Delivery rounds: on which days, with which vehicle, to which addresses in which order; what is on a vehicle. (S11)

CREATE TABLE IF NOT EXISTS delivery_round (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  version INT UNSIGNED NOT NULL DEFAULT 1,
  name VARCHAR(60) NOT NULL,
  -- Seven of 0 and 1, Monday first.
  week CHAR(7) NOT NULL,
  vehicle VARCHAR(60) NOT NULL DEFAULT '',
  -- Kilograms and cubic metres; NULL for no limit.
  most_weight DECIMAL(12,3) NULL CHECK (most_weight > 0),
  most_volume DECIMAL(12,4) NULL CHECK (most_volume > 0),
  out_of_use BOOLEAN NOT NULL DEFAULT FALSE,
  PRIMARY KEY (company_id, id),
  KEY delivery_round_id (id),
  UNIQUE KEY delivery_round_name (company_id, name),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

CREATE TABLE IF NOT EXISTS round_stop (
  company_id SMALLINT UNSIGNED NOT NULL,
  round_id INT UNSIGNED NOT NULL,
  stop_no SMALLINT UNSIGNED NOT NULL,
  ship_to_id INT UNSIGNED NOT NULL,
  PRIMARY KEY (company_id, round_id, stop_no),
  -- An address is on one round.
  UNIQUE KEY round_stop_address (company_id, ship_to_id),
  FOREIGN KEY (company_id, round_id) REFERENCES delivery_round (company_id, id),
  FOREIGN KEY (company_id, ship_to_id) REFERENCES ship_to (company_id, id)
);

-- What is on the vehicle of a run until it is shipped: a line is on one at a time.
CREATE TABLE IF NOT EXISTS run_load (
  company_id SMALLINT UNSIGNED NOT NULL,
  order_line_id INT UNSIGNED NOT NULL,
  round_id INT UNSIGNED NOT NULL,
  day DATE NOT NULL,
  quantity DECIMAL(18,5) NOT NULL CHECK (quantity > 0),
  PRIMARY KEY (company_id, order_line_id),
  KEY run_load_run (company_id, round_id, day),
  FOREIGN KEY (company_id, round_id) REFERENCES delivery_round (company_id, id),
  FOREIGN KEY (company_id, order_line_id) REFERENCES sales_order_line (company_id, id)
);
