-- Who gets the commission of an order, by share; together all of it. (S1)
CREATE TABLE IF NOT EXISTS order_commission (
  company_id SMALLINT UNSIGNED NOT NULL,
  order_id INT UNSIGNED NOT NULL,
  person_id INT UNSIGNED NOT NULL,
  per_cent DECIMAL(5,2) NOT NULL CHECK (per_cent > 0 AND per_cent <= 100),
  PRIMARY KEY (company_id, order_id, person_id),
  FOREIGN KEY (company_id, order_id) REFERENCES sales_order (company_id, id),
  FOREIGN KEY (person_id) REFERENCES person (id)
);
