-- The route of a special order; goods held for order lines; what a vendor takes at least, and how far it may miss.

ALTER TABLE item MODIFY COLUMN route ENUM('stock','drop','special') NOT NULL;

-- Units at our place held for the line: received for it, or reserved from stock. (S3 L3)
ALTER TABLE sales_order_line
  MODIFY COLUMN route ENUM('stock','drop','special') NOT NULL,
  ADD COLUMN IF NOT EXISTS reserved DECIMAL(18,5) NOT NULL DEFAULT 0,
  ADD CONSTRAINT IF NOT EXISTS sales_order_line_reserved CHECK (reserved >= 0 AND reserved <= quantity - cancelled - shipped);

-- Kept by the acts, proven by verify: never more than there is.
ALTER TABLE stock
  ADD COLUMN IF NOT EXISTS reserved DECIMAL(18,5) NOT NULL DEFAULT 0,
  ADD CONSTRAINT IF NOT EXISTS stock_reserved CHECK (reserved >= 0 AND reserved <= on_hand);

-- The least a vendor sells of an item, and the steps above it; zero for any quantity. (L8)
ALTER TABLE item_vendor
  ADD COLUMN IF NOT EXISTS minimum DECIMAL(18,5) NOT NULL DEFAULT 0 CHECK (minimum >= 0),
  ADD COLUMN IF NOT EXISTS multiple DECIMAL(18,5) NOT NULL DEFAULT 0 CHECK (multiple >= 0);

-- How far a vendor may deliver more or less than was ordered, in per cent. (L10)
ALTER TABLE vendor
  ADD COLUMN IF NOT EXISTS tolerance_percent DECIMAL(5,2) NOT NULL DEFAULT 0 CHECK (tolerance_percent >= 0);

ALTER TABLE purchase_order_line
  DROP CONSTRAINT IF EXISTS purchase_order_line_counts,
  ADD CONSTRAINT IF NOT EXISTS purchase_order_line_within CHECK (
    tied >= 0 AND tied <= quantity AND received >= 0 AND invoiced >= 0 AND invoiced <= received
  );

-- A special order's goods are there and wait: serves Today, soonest ship date first.
ALTER TABLE sales_order_line
  ADD COLUMN IF NOT EXISTS goods_here BOOLEAN AS (route = 'special' AND reserved > 0) PERSISTENT,
  ADD KEY IF NOT EXISTS sales_order_line_here (company_id, goods_here, ship_date);

-- Serves "which lines of this item wait for supply" and "which purchases of this item are for nobody yet". (L5)
ALTER TABLE sales_order_line
  ADD KEY IF NOT EXISTS sales_order_line_waiting (company_id, item_id, on_bench, ship_date);
ALTER TABLE purchase_order_line
  ADD COLUMN IF NOT EXISTS untied BOOLEAN AS (tied < quantity AND received < quantity) PERSISTENT,
  ADD KEY IF NOT EXISTS purchase_order_line_untied (company_id, item_id, untied, due_date);

-- Serves the view of ties that are still to come, newest first. (L7)
ALTER TABLE tie
  ADD COLUMN IF NOT EXISTS open BOOLEAN AS (received < quantity) PERSISTENT,
  ADD KEY IF NOT EXISTS tie_open (company_id, open, id);
