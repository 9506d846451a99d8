-- What lists are read in the order of, so that any order of theirs costs what a page shows.

ALTER TABLE sales_order
  ADD KEY IF NOT EXISTS sales_order_shipping (company_id, first_ship_date, id),
  ADD KEY IF NOT EXISTS sales_order_state_shipping (company_id, state, first_ship_date, id),
  ADD KEY IF NOT EXISTS sales_order_ordered (company_id, order_date, id),
  ADD KEY IF NOT EXISTS sales_order_net (company_id, net, id),
  ADD KEY IF NOT EXISTS sales_order_reference (company_id, customer_reference, id);

ALTER TABLE purchase_order
  ADD KEY IF NOT EXISTS purchase_order_due (company_id, first_due_date, id),
  ADD KEY IF NOT EXISTS purchase_order_state_due (company_id, state, first_due_date, id),
  ADD KEY IF NOT EXISTS purchase_order_ordered (company_id, order_date, id),
  ADD KEY IF NOT EXISTS purchase_order_net (company_id, net, id);

ALTER TABLE customer_invoice
  ADD KEY IF NOT EXISTS customer_invoice_dated (company_id, invoice_date, id),
  ADD KEY IF NOT EXISTS customer_invoice_due (company_id, due_date, id),
  ADD KEY IF NOT EXISTS customer_invoice_total (company_id, total, id);

ALTER TABLE vendor_invoice
  ADD KEY IF NOT EXISTS vendor_invoice_dated (company_id, invoice_date, id),
  ADD KEY IF NOT EXISTS vendor_invoice_due (company_id, due_date, id),
  ADD KEY IF NOT EXISTS vendor_invoice_total (company_id, total, id),
  ADD KEY IF NOT EXISTS vendor_invoice_vendor (company_id, vendor_id, id),
  ADD KEY IF NOT EXISTS vendor_invoice_theirs (company_id, vendor_number, id);

ALTER TABLE credit_note
  ADD KEY IF NOT EXISTS credit_note_dated (company_id, credit_date, id),
  ADD KEY IF NOT EXISTS credit_note_total (company_id, total, id);

ALTER TABLE prepayment
  ADD KEY IF NOT EXISTS prepayment_taken (company_id, taken_on, id),
  ADD KEY IF NOT EXISTS prepayment_amount (company_id, amount, id);

-- What is still owed, either way: serves "who is late", balances and what is open by age.
ALTER TABLE open_item
  ADD COLUMN IF NOT EXISTS owing BOOLEAN AS (settled <> amount) PERSISTENT,
  ADD KEY IF NOT EXISTS open_item_owing_customer (company_id, owing, customer_id, due_date),
  ADD KEY IF NOT EXISTS open_item_owing_vendor (company_id, owing, vendor_id, due_date),
  ADD KEY IF NOT EXISTS open_item_owing (company_id, owing, due_date, id);

-- Views of a list that somebody keeps by name, for oneself or (no person) for all who work in the company.
CREATE TABLE IF NOT EXISTS list_view (
  company_id SMALLINT UNSIGNED NOT NULL,
  id INT UNSIGNED NOT NULL AUTO_INCREMENT,
  list VARCHAR(20) NOT NULL,
  name VARCHAR(40) NOT NULL,
  person_id INT UNSIGNED NULL,
  kept_by INT UNSIGNED NOT NULL,
  -- What the address says of it, and its columns in their order with their widths.
  query VARCHAR(5000) NOT NULL,
  columns VARCHAR(8000) NOT NULL,
  PRIMARY KEY (company_id, id),
  KEY list_view_id (id),
  KEY list_view_list (company_id, list, person_id),
  FOREIGN KEY (company_id) REFERENCES company (id)
);
