-- How often an order was changed since it was confirmed. (S8)
ALTER TABLE sales_order ADD COLUMN IF NOT EXISTS revision INT UNSIGNED NOT NULL DEFAULT 0;
