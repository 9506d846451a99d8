-- The people at a customer or vendor: who one rings, and who rings.
CREATE TABLE IF NOT EXISTS contact (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  customer_id INT UNSIGNED NULL,
  vendor_id INT UNSIGNED NULL,
  name VARCHAR(80) NOT NULL,
  work VARCHAR(60) NOT NULL DEFAULT '',
  phone VARCHAR(40) NOT NULL DEFAULT '',
  email VARCHAR(120) NOT NULL DEFAULT '',
  PRIMARY KEY (company_id, id),
  KEY contact_id (id),
  -- Serve "the people of this customer, this vendor", and keep one name once.
  UNIQUE KEY contact_customer (company_id, customer_id, name),
  UNIQUE KEY contact_vendor (company_id, vendor_id, name),
  FOREIGN KEY (company_id, customer_id) REFERENCES customer (company_id, id),
  FOREIGN KEY (company_id, vendor_id) REFERENCES vendor (company_id, id),
  CONSTRAINT contact_one CHECK ((customer_id IS NULL) <> (vendor_id IS NULL))
);
