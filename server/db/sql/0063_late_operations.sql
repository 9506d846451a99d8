-- What is late in the workshop moves what waits for it, and is told. (W3)
ALTER TABLE planned_operation
  -- When it should have been over, where it was laid again because it was not.
  ADD COLUMN IF NOT EXISTS late_since DATE NULL;
ALTER TABLE sales_order_line
  -- When it was to ship before what is made for it was late; empty once its customer was told.
  ADD COLUMN IF NOT EXISTS moved_from DATE NULL,
  -- Serves "whom is to be told".
  ADD KEY IF NOT EXISTS sales_order_line_moved (company_id, moved_from);
