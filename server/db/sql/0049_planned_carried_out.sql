-- What is planned to be bought is placed, and keeps the purchase line it was placed on. (T12)
ALTER TABLE planned_order
  MODIFY COLUMN state ENUM('planned','firm','running','finished','cancelled','placed') NOT NULL DEFAULT 'planned',
  ADD COLUMN IF NOT EXISTS purchase_line_id INT UNSIGNED NULL,
  -- Still to be carried out by somebody: serves the bench and Today, first to be begun first.
  ADD COLUMN IF NOT EXISTS waits BOOLEAN AS (state IN ('planned','firm')) PERSISTENT,
  ADD KEY IF NOT EXISTS planned_order_bench (company_id, kind, waits, due_date, id),
  ADD KEY IF NOT EXISTS planned_order_begin (company_id, waits, start_date, id),
  ADD KEY IF NOT EXISTS planned_order_purchase (company_id, purchase_line_id),
  ADD FOREIGN KEY IF NOT EXISTS planned_order_placed (company_id, purchase_line_id) REFERENCES purchase_order_line (company_id, id);
