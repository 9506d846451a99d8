-- What a vendor answered a purchase order: when, and what of a line will not come. (L4)

ALTER TABLE purchase_order ADD COLUMN IF NOT EXISTS answered_on DATE NULL;

ALTER TABLE purchase_order_line
  -- Nothing of a line may come.
  MODIFY COLUMN quantity DECIMAL(18,5) NOT NULL,
  ADD COLUMN IF NOT EXISTS stopped DECIMAL(18,5) NOT NULL DEFAULT 0 CHECK (stopped >= 0),
  ADD CONSTRAINT IF NOT EXISTS purchase_order_line_quantity CHECK (quantity > 0 OR (quantity = 0 AND stopped > 0));
