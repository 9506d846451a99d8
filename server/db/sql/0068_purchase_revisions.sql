-- How often a purchase order was changed since it was placed. (S8)
ALTER TABLE purchase_order ADD COLUMN IF NOT EXISTS revision INT UNSIGNED NOT NULL DEFAULT 0;
