-- Receipts and shipments that reverse others: written once like them, naming what they reverse, their lines below zero. (P1)

ALTER TABLE receipt
  ADD COLUMN IF NOT EXISTS reverses_id INT UNSIGNED NULL,
  ADD COLUMN IF NOT EXISTS reason VARCHAR(200) NOT NULL DEFAULT '',
  -- Each is reversed once.
  ADD UNIQUE KEY IF NOT EXISTS receipt_reverses (company_id, reverses_id),
  ADD CONSTRAINT receipt_reversed FOREIGN KEY IF NOT EXISTS (company_id, reverses_id) REFERENCES receipt (company_id, id);

ALTER TABLE receipt_line
  MODIFY COLUMN quantity DECIMAL(18,5) NOT NULL,
  ADD COLUMN IF NOT EXISTS reverses_line_id INT UNSIGNED NULL,
  ADD UNIQUE KEY IF NOT EXISTS receipt_line_reverses (company_id, reverses_line_id),
  ADD CONSTRAINT receipt_line_reversed FOREIGN KEY IF NOT EXISTS (company_id, reverses_line_id)
    REFERENCES receipt_line (company_id, id),
  ADD CONSTRAINT IF NOT EXISTS receipt_line_sign CHECK (quantity <> 0 AND (quantity < 0) = (reverses_line_id IS NOT NULL)),
  -- A tie on which everything was reversed can be untied; what moved on it keeps its number.
  DROP FOREIGN KEY IF EXISTS receipt_line_ibfk_3;

ALTER TABLE shipment
  ADD COLUMN IF NOT EXISTS reverses_id INT UNSIGNED NULL,
  ADD COLUMN IF NOT EXISTS reason VARCHAR(200) NOT NULL DEFAULT '',
  ADD UNIQUE KEY IF NOT EXISTS shipment_reverses (company_id, reverses_id),
  ADD CONSTRAINT shipment_reversed FOREIGN KEY IF NOT EXISTS (company_id, reverses_id) REFERENCES shipment (company_id, id);

ALTER TABLE shipment_line
  MODIFY COLUMN quantity DECIMAL(18,5) NOT NULL,
  ADD COLUMN IF NOT EXISTS reverses_line_id INT UNSIGNED NULL,
  ADD UNIQUE KEY IF NOT EXISTS shipment_line_reverses (company_id, reverses_line_id),
  ADD CONSTRAINT shipment_line_reversed FOREIGN KEY IF NOT EXISTS (company_id, reverses_line_id)
    REFERENCES shipment_line (company_id, id),
  ADD CONSTRAINT IF NOT EXISTS shipment_line_sign CHECK (quantity <> 0 AND (quantity < 0) = (reverses_line_id IS NOT NULL));

-- A customer invoice taken back whole: its goods stay with the customer and are to be invoiced again.
ALTER TABLE credit_note MODIFY COLUMN kind ENUM('return','price','rebate','reversal') NOT NULL;
ALTER TABLE credit_note_line
  ADD COLUMN IF NOT EXISTS uninvoiced DECIMAL(18,5) NOT NULL DEFAULT 0 CHECK (uninvoiced >= 0);
