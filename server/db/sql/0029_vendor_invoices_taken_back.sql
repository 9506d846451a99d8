-- Vendor invoices that take others back: written once like them, naming what they reverse, their lines below zero. (P1)

ALTER TABLE vendor_invoice
  ADD COLUMN IF NOT EXISTS reverses_id INT UNSIGNED NULL,
  ADD COLUMN IF NOT EXISTS reason VARCHAR(200) NOT NULL DEFAULT '',
  -- Counts those under the same number of the vendor: one of them stands at most, what took it back and was entered again follow.
  ADD COLUMN IF NOT EXISTS take SMALLINT UNSIGNED NOT NULL DEFAULT 0,
  ADD UNIQUE KEY IF NOT EXISTS vendor_invoice_reverses (company_id, reverses_id),
  ADD UNIQUE KEY IF NOT EXISTS vendor_invoice_their_number (company_id, vendor_id, vendor_number, take),
  DROP KEY IF EXISTS vendor_invoice_vendor_number,
  ADD CONSTRAINT vendor_invoice_reversed FOREIGN KEY IF NOT EXISTS (company_id, reverses_id)
    REFERENCES vendor_invoice (company_id, id);

ALTER TABLE vendor_invoice_line MODIFY COLUMN quantity DECIMAL(18,5) NOT NULL CHECK (quantity <> 0);
