-- Lines that are made or assembled to order. (L1, W2, P5)
ALTER TABLE item MODIFY COLUMN route ENUM('stock','drop','special','make','assemble') NOT NULL;
ALTER TABLE sales_order_line MODIFY COLUMN route ENUM('stock','drop','special','make','assemble') NOT NULL;

-- Goods that came for a line and are held for it: bought or made.
ALTER TABLE sales_order_line
  DROP KEY IF EXISTS sales_order_line_here,
  DROP COLUMN IF EXISTS goods_here;
ALTER TABLE sales_order_line
  ADD COLUMN IF NOT EXISTS goods_here BOOLEAN AS (route IN ('special','make','assemble') AND reserved > 0) PERSISTENT,
  ADD KEY IF NOT EXISTS sales_order_line_here (company_id, goods_here, ship_date);

ALTER TABLE planned_order
  -- What goes into it was changed for this order alone: another quantity leaves that as it is, in proportion.
  ADD COLUMN IF NOT EXISTS own_parts BOOLEAN NOT NULL DEFAULT FALSE;

ALTER TABLE work_report
  -- The shipment it was reported with, in one act. (P5)
  ADD COLUMN IF NOT EXISTS shipment_id INT UNSIGNED NULL,
  ADD KEY IF NOT EXISTS work_report_shipment (company_id, shipment_id),
  ADD FOREIGN KEY IF NOT EXISTS work_report_shipped (company_id, shipment_id) REFERENCES shipment (company_id, id);
