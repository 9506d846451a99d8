-- The number a purchase had before Kampong: opened once for a vendor and place. (U3)
ALTER TABLE purchase_order
  ADD COLUMN IF NOT EXISTS opened_as VARCHAR(40) NULL,
  ADD UNIQUE KEY IF NOT EXISTS purchase_order_opened_as (company_id, opened_as, vendor_id, location_id);
