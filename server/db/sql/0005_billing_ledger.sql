-- Invoices, payments, open items and the ledger.

CREATE TABLE IF NOT EXISTS account (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  code VARCHAR(10) NOT NULL,
  name VARCHAR(60) NOT NULL,
  -- What the company posts here by itself; each role has one account.
  posting_role VARCHAR(30) NULL,
  PRIMARY KEY (company_id, id),
  KEY account_id (id),
  UNIQUE KEY account_code (company_id, code),
  UNIQUE KEY account_role (company_id, posting_role),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

CREATE TABLE IF NOT EXISTS customer_invoice (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  customer_id INT UNSIGNED NOT NULL,
  order_id INT UNSIGNED NOT NULL,
  currency CHAR(3) NOT NULL,
  invoice_date DATE NOT NULL,
  due_date DATE NOT NULL,
  net DECIMAL(18,4) NOT NULL,
  tax DECIMAL(18,4) NOT NULL,
  total DECIMAL(18,4) NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, id),
  KEY customer_invoice_id (id),
  UNIQUE KEY customer_invoice_number (company_id, number),
  KEY customer_invoice_customer (company_id, customer_id),
  KEY customer_invoice_order (company_id, order_id),
  FOREIGN KEY (company_id, customer_id) REFERENCES customer (company_id, id),
  FOREIGN KEY (company_id, order_id) REFERENCES sales_order (company_id, id),
  CONSTRAINT customer_invoice_total CHECK (total = net + tax)
);

CREATE TABLE IF NOT EXISTS customer_invoice_line (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  invoice_id INT UNSIGNED NOT NULL,
  shipment_line_id INT UNSIGNED NOT NULL,
  order_line_id INT UNSIGNED NOT NULL,
  quantity DECIMAL(18,5) NOT NULL CHECK (quantity > 0),
  unit_price DECIMAL(14,4) NOT NULL,
  net DECIMAL(18,4) NOT NULL,
  tax_code_id INT UNSIGNED NOT NULL,
  tax_rate DECIMAL(5,2) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY customer_invoice_line_id (id),
  KEY customer_invoice_line_invoice (company_id, invoice_id),
  KEY customer_invoice_line_shipment (company_id, shipment_line_id),
  KEY customer_invoice_line_order (company_id, order_line_id),
  FOREIGN KEY (company_id, invoice_id) REFERENCES customer_invoice (company_id, id),
  FOREIGN KEY (company_id, shipment_line_id) REFERENCES shipment_line (company_id, id),
  FOREIGN KEY (company_id, order_line_id) REFERENCES sales_order_line (company_id, id),
  FOREIGN KEY (company_id, tax_code_id) REFERENCES tax_code (company_id, id)
);

CREATE TABLE IF NOT EXISTS vendor_invoice (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  vendor_id INT UNSIGNED NOT NULL,
  purchase_order_id INT UNSIGNED NOT NULL,
  -- The vendor's own number: once per vendor. (P4)
  vendor_number VARCHAR(60) NOT NULL,
  currency CHAR(3) NOT NULL,
  invoice_date DATE NOT NULL,
  due_date DATE NOT NULL,
  net DECIMAL(18,4) NOT NULL,
  tax DECIMAL(18,4) NOT NULL,
  total DECIMAL(18,4) NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, id),
  KEY vendor_invoice_id (id),
  UNIQUE KEY vendor_invoice_number (company_id, number),
  UNIQUE KEY vendor_invoice_vendor_number (company_id, vendor_id, vendor_number),
  KEY vendor_invoice_purchase (company_id, purchase_order_id),
  FOREIGN KEY (company_id, vendor_id) REFERENCES vendor (company_id, id),
  FOREIGN KEY (company_id, purchase_order_id) REFERENCES purchase_order (company_id, id),
  CONSTRAINT vendor_invoice_total CHECK (total = net + tax)
);

CREATE TABLE IF NOT EXISTS vendor_invoice_line (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  invoice_id INT UNSIGNED NOT NULL,
  receipt_line_id INT UNSIGNED NOT NULL,
  purchase_line_id INT UNSIGNED NOT NULL,
  quantity DECIMAL(18,5) NOT NULL CHECK (quantity > 0),
  unit_price DECIMAL(14,4) NOT NULL,
  net DECIMAL(18,4) NOT NULL,
  -- Received cost this part cleared; net less this is the price difference.
  received_cost DECIMAL(18,4) NOT NULL,
  tax_code_id INT UNSIGNED NOT NULL,
  tax_rate DECIMAL(5,2) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY vendor_invoice_line_id (id),
  KEY vendor_invoice_line_invoice (company_id, invoice_id),
  KEY vendor_invoice_line_receipt (company_id, receipt_line_id),
  KEY vendor_invoice_line_purchase (company_id, purchase_line_id),
  FOREIGN KEY (company_id, invoice_id) REFERENCES vendor_invoice (company_id, id),
  FOREIGN KEY (company_id, receipt_line_id) REFERENCES receipt_line (company_id, id),
  FOREIGN KEY (company_id, purchase_line_id) REFERENCES purchase_order_line (company_id, id),
  FOREIGN KEY (company_id, tax_code_id) REFERENCES tax_code (company_id, id)
);

-- Tax of an invoice by code, as posted. (P7)
CREATE TABLE IF NOT EXISTS invoice_tax (
  company_id SMALLINT UNSIGNED NOT NULL,
  document_kind CHAR(2) NOT NULL,
  document_id INT UNSIGNED NOT NULL,
  tax_code VARCHAR(10) NOT NULL,
  tax_rate DECIMAL(5,2) NOT NULL,
  base DECIMAL(18,4) NOT NULL,
  tax DECIMAL(18,4) NOT NULL,
  PRIMARY KEY (company_id, document_kind, document_id, tax_code),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

-- What a party owes us, or we owe a vendor, invoice by invoice. `settled` grows with payments.
CREATE TABLE IF NOT EXISTS open_item (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  customer_id INT UNSIGNED NULL,
  vendor_id INT UNSIGNED NULL,
  customer_invoice_id INT UNSIGNED NULL,
  vendor_invoice_id INT UNSIGNED NULL,
  currency CHAR(3) NOT NULL,
  due_date DATE NOT NULL,
  amount DECIMAL(18,4) NOT NULL,
  settled DECIMAL(18,4) NOT NULL DEFAULT 0,
  PRIMARY KEY (company_id, id),
  KEY open_item_id (id),
  UNIQUE KEY open_item_customer_invoice (company_id, customer_invoice_id),
  UNIQUE KEY open_item_vendor_invoice (company_id, vendor_invoice_id),
  KEY open_item_customer (company_id, customer_id, due_date),
  KEY open_item_vendor (company_id, vendor_id, due_date),
  FOREIGN KEY (company_id, customer_id) REFERENCES customer (company_id, id),
  FOREIGN KEY (company_id, vendor_id) REFERENCES vendor (company_id, id),
  FOREIGN KEY (company_id, customer_invoice_id) REFERENCES customer_invoice (company_id, id),
  FOREIGN KEY (company_id, vendor_invoice_id) REFERENCES vendor_invoice (company_id, id),
  CONSTRAINT open_item_side CHECK (
    (customer_id IS NOT NULL AND vendor_id IS NULL AND customer_invoice_id IS NOT NULL)
    OR (vendor_id IS NOT NULL AND customer_id IS NULL AND vendor_invoice_id IS NOT NULL)
  ),
  CONSTRAINT open_item_settled CHECK (settled >= 0 AND settled <= amount)
);

CREATE TABLE IF NOT EXISTS payment (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  open_item_id INT UNSIGNED NOT NULL,
  currency CHAR(3) NOT NULL,
  paid_on DATE NOT NULL,
  amount DECIMAL(18,4) NOT NULL CHECK (amount > 0),
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, id),
  KEY payment_id (id),
  UNIQUE KEY payment_number (company_id, number),
  KEY payment_open_item (company_id, open_item_id),
  FOREIGN KEY (company_id, open_item_id) REFERENCES open_item (company_id, id)
);

CREATE TABLE IF NOT EXISTS journal (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  number VARCHAR(16) NOT NULL,
  posted_on DATE NOT NULL,
  document_kind CHAR(2) NOT NULL,
  document_id INT UNSIGNED NOT NULL,
  created_at DATETIME(3) NOT NULL DEFAULT CURRENT_TIMESTAMP(3),
  PRIMARY KEY (company_id, id),
  KEY journal_id (id),
  UNIQUE KEY journal_number (company_id, number),
  -- Serves "the journals of this document".
  KEY journal_document (company_id, document_kind, document_id),
  FOREIGN KEY (company_id) REFERENCES company (id)
);

CREATE TABLE IF NOT EXISTS journal_entry (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  journal_id INT UNSIGNED NOT NULL,
  account_id INT UNSIGNED NOT NULL,
  -- Above zero debits, below zero credits.
  amount DECIMAL(18,4) NOT NULL CHECK (amount <> 0),
  customer_id INT UNSIGNED NULL,
  vendor_id INT UNSIGNED NULL,
  PRIMARY KEY (company_id, id),
  KEY journal_entry_id (id),
  KEY journal_entry_journal (company_id, journal_id),
  KEY journal_entry_account (company_id, account_id, id),
  FOREIGN KEY (company_id, journal_id) REFERENCES journal (company_id, id),
  FOREIGN KEY (company_id, account_id) REFERENCES account (company_id, id)
);
