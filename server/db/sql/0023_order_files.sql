-- The file an order came in, so that what came together is found together.
ALTER TABLE sales_order
  ADD COLUMN IF NOT EXISTS batch VARCHAR(120) NOT NULL DEFAULT '',
  ADD KEY IF NOT EXISTS sales_order_batch (company_id, batch, id),
  -- Serves "is this reference of the customer in use".
  ADD KEY IF NOT EXISTS sales_order_reference (company_id, customer_id, customer_reference);
