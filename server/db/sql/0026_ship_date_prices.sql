-- The price of a line found again at its shipment, and what it came to when it was ordered. (R3)
ALTER TABLE sales_order_line
  ADD COLUMN IF NOT EXISTS priced_on DATE NULL,
  ADD COLUMN IF NOT EXISTS ordered_amount DECIMAL(18,4) NULL;
