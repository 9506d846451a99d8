-- The supply: purchase orders, ties, receipts, shipments, stock.

CREATE TABLE IF NOT EXISTS purchase_order (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  version INT UNSIGNED NOT NULL DEFAULT 1,
  state ENUM('draft','placed','closed','cancelled') NOT NULL DEFAULT 'placed',
  vendor_id INT UNSIGNED NOT NULL,
  -- The customer's address for a drop shipment; NULL for our own.
  ship_to_id INT UNSIGNED NULL,
  order_date DATE NOT NULL,
  first_due_date DATE NULL,
  currency CHAR(3) NOT NULL,
  net DECIMAL(18,4) NOT NULL DEFAULT 0,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, id),
  KEY purchase_order_id (id),
  UNIQUE KEY purchase_order_number (company_id, number),
  KEY purchase_order_vendor (company_id, vendor_id),
  KEY purchase_order_state (company_id, state, id),
  FOREIGN KEY (company_id, vendor_id) REFERENCES vendor (company_id, id),
  FOREIGN KEY (company_id, ship_to_id) REFERENCES ship_to (company_id, id)
);

CREATE TABLE IF NOT EXISTS purchase_order_line (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  purchase_order_id INT UNSIGNED NOT NULL,
  line_no SMALLINT UNSIGNED NOT NULL,
  item_id INT UNSIGNED NOT NULL,
  quantity DECIMAL(18,5) NOT NULL CHECK (quantity > 0),
  unit_price DECIMAL(14,4) NOT NULL CHECK (unit_price >= 0),
  amount DECIMAL(18,4) NOT NULL,
  tax_code_id INT UNSIGNED NOT NULL,
  tax_rate DECIMAL(5,2) NOT NULL,
  due_date DATE NOT NULL,
  tied DECIMAL(18,5) NOT NULL DEFAULT 0,
  received DECIMAL(18,5) NOT NULL DEFAULT 0,
  invoiced DECIMAL(18,5) NOT NULL DEFAULT 0,
  PRIMARY KEY (company_id, id),
  KEY purchase_order_line_id (id),
  UNIQUE KEY purchase_order_line_no (company_id, purchase_order_id, line_no),
  KEY purchase_order_line_item (company_id, item_id),
  KEY purchase_order_line_due (company_id, due_date),
  FOREIGN KEY (company_id, purchase_order_id) REFERENCES purchase_order (company_id, id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id),
  FOREIGN KEY (company_id, tax_code_id) REFERENCES tax_code (company_id, id),
  CONSTRAINT purchase_order_line_counts CHECK (
    tied >= 0 AND tied <= quantity
    AND received >= 0 AND received <= quantity
    AND invoiced >= 0 AND invoiced <= received
  )
);

CREATE TABLE IF NOT EXISTS tie (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  order_line_id INT UNSIGNED NOT NULL,
  purchase_line_id INT UNSIGNED NOT NULL,
  quantity DECIMAL(18,5) NOT NULL CHECK (quantity > 0),
  received DECIMAL(18,5) NOT NULL DEFAULT 0,
  PRIMARY KEY (company_id, id),
  KEY tie_id (id),
  UNIQUE KEY tie_ends (company_id, order_line_id, purchase_line_id),
  KEY tie_purchase (company_id, purchase_line_id),
  FOREIGN KEY (company_id, order_line_id) REFERENCES sales_order_line (company_id, id),
  FOREIGN KEY (company_id, purchase_line_id) REFERENCES purchase_order_line (company_id, id),
  CONSTRAINT tie_received CHECK (received >= 0 AND received <= quantity)
);

CREATE TABLE IF NOT EXISTS receipt (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  purchase_order_id INT UNSIGNED NOT NULL,
  vendor_id INT UNSIGNED NOT NULL,
  posted_on DATE NOT NULL,
  cost DECIMAL(18,4) NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, id),
  KEY receipt_id (id),
  UNIQUE KEY receipt_number (company_id, number),
  KEY receipt_purchase (company_id, purchase_order_id),
  FOREIGN KEY (company_id, purchase_order_id) REFERENCES purchase_order (company_id, id),
  FOREIGN KEY (company_id, vendor_id) REFERENCES vendor (company_id, id)
);

CREATE TABLE IF NOT EXISTS receipt_line (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  receipt_id INT UNSIGNED NOT NULL,
  purchase_line_id INT UNSIGNED NOT NULL,
  tie_id INT UNSIGNED NULL,
  item_id INT UNSIGNED NOT NULL,
  quantity DECIMAL(18,5) NOT NULL CHECK (quantity > 0),
  unit_cost DECIMAL(14,4) NOT NULL,
  cost DECIMAL(18,4) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY receipt_line_id (id),
  KEY receipt_line_receipt (company_id, receipt_id),
  KEY receipt_line_purchase (company_id, purchase_line_id),
  KEY receipt_line_tie (company_id, tie_id),
  FOREIGN KEY (company_id, receipt_id) REFERENCES receipt (company_id, id),
  FOREIGN KEY (company_id, purchase_line_id) REFERENCES purchase_order_line (company_id, id),
  FOREIGN KEY (company_id, tie_id) REFERENCES tie (company_id, id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id)
);

CREATE TABLE IF NOT EXISTS shipment (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  order_id INT UNSIGNED NOT NULL,
  customer_id INT UNSIGNED NOT NULL,
  ship_to_id INT UNSIGNED NOT NULL,
  posted_on DATE NOT NULL,
  cost DECIMAL(18,4) NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, id),
  KEY shipment_id (id),
  UNIQUE KEY shipment_number (company_id, number),
  KEY shipment_order (company_id, order_id),
  FOREIGN KEY (company_id, order_id) REFERENCES sales_order (company_id, id),
  FOREIGN KEY (company_id, customer_id) REFERENCES customer (company_id, id),
  FOREIGN KEY (company_id, ship_to_id) REFERENCES ship_to (company_id, id)
);

CREATE TABLE IF NOT EXISTS shipment_line (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  shipment_id INT UNSIGNED NOT NULL,
  order_line_id INT UNSIGNED NOT NULL,
  -- The receipt line of a drop shipment; NULL for goods from our stock.
  receipt_line_id INT UNSIGNED NULL,
  item_id INT UNSIGNED NOT NULL,
  quantity DECIMAL(18,5) NOT NULL CHECK (quantity > 0),
  unit_cost DECIMAL(14,4) NOT NULL,
  cost DECIMAL(18,4) NOT NULL,
  -- Sales value of the part, net: the parts of an order line sum to its amount.
  value DECIMAL(18,4) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY shipment_line_id (id),
  KEY shipment_line_shipment (company_id, shipment_id),
  KEY shipment_line_order (company_id, order_line_id),
  UNIQUE KEY shipment_line_receipt (company_id, receipt_line_id),
  FOREIGN KEY (company_id, shipment_id) REFERENCES shipment (company_id, id),
  FOREIGN KEY (company_id, order_line_id) REFERENCES sales_order_line (company_id, id),
  FOREIGN KEY (company_id, receipt_line_id) REFERENCES receipt_line (company_id, id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id)
);

-- What is on hand of an item and its value: the moving average. Kept by the acts, proven by verify.
CREATE TABLE IF NOT EXISTS stock (
  company_id SMALLINT UNSIGNED NOT NULL,
  item_id INT UNSIGNED NOT NULL,
  on_hand DECIMAL(18,5) NOT NULL,
  value DECIMAL(18,4) NOT NULL,
  PRIMARY KEY (company_id, item_id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id),
  CONSTRAINT stock_not_below CHECK (on_hand >= 0)
);

CREATE TABLE IF NOT EXISTS stock_entry (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  item_id INT UNSIGNED NOT NULL,
  -- 'ours' is our location, 'vendor-to-customer' what only passed through a drop shipment.
  place ENUM('ours','vendor-to-customer') NOT NULL,
  quantity DECIMAL(18,5) NOT NULL,
  cost DECIMAL(18,4) NOT NULL,
  posted_on DATE NOT NULL,
  document_kind CHAR(2) NOT NULL,
  document_id INT UNSIGNED NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY stock_entry_id (id),
  KEY stock_entry_item (company_id, item_id, id),
  -- Serves "the stock entries of this document".
  KEY stock_entry_document (company_id, document_kind, document_id),
  FOREIGN KEY (company_id, item_id) REFERENCES item (company_id, id)
);
