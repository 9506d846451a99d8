-- What was owed before Kampong: an invoice without order and lines, against the opening balance, and what takes it back. (U3)
ALTER TABLE customer_invoice
  ADD COLUMN IF NOT EXISTS opening BOOLEAN NOT NULL DEFAULT FALSE,
  DROP CONSTRAINT IF EXISTS customer_invoice_for;
ALTER TABLE customer_invoice
  ADD CONSTRAINT IF NOT EXISTS customer_invoice_about CHECK ((order_id IS NOT NULL) + (agreement_id IS NOT NULL) + opening = 1);
ALTER TABLE vendor_invoice
  ADD COLUMN IF NOT EXISTS opening BOOLEAN NOT NULL DEFAULT FALSE,
  MODIFY COLUMN purchase_order_id INT UNSIGNED NULL;
ALTER TABLE vendor_invoice
  ADD CONSTRAINT IF NOT EXISTS vendor_invoice_about CHECK ((purchase_order_id IS NULL) = opening);
ALTER TABLE credit_note ADD COLUMN IF NOT EXISTS opening BOOLEAN NOT NULL DEFAULT FALSE;

-- A sister tells what she is owed herself: what opens our books is not offered to hers.
CREATE OR REPLACE TRIGGER customer_invoice_offered AFTER INSERT ON customer_invoice FOR EACH ROW
  INSERT INTO offer (company_id, from_id, kind, source_id, number, state, taken_id)
    SELECT s.sister_id, NEW.company_id, 'invoice', NEW.id, NEW.number, IF(v.id IS NULL, 'open', 'folded'), v.id
      FROM sister s
      LEFT JOIN sister o ON o.company_id = s.sister_id AND o.sister_id = NEW.company_id
      LEFT JOIN vendor_invoice v ON v.company_id = o.company_id AND v.vendor_id = o.vendor_id AND v.vendor_number = NEW.number
     WHERE s.company_id = NEW.company_id AND s.customer_id = NEW.customer_id AND NOT NEW.opening;

-- What was taken of an agreement's line before it came here; it counts on the line's counters.
CREATE TABLE IF NOT EXISTS taken_before (
  company_id SMALLINT UNSIGNED NOT NULL,
  agreement_line_id INT UNSIGNED NOT NULL,
  quantity DECIMAL(18,4) NOT NULL,
  value DECIMAL(18,4) NOT NULL,
  told_on DATE NOT NULL,
  PRIMARY KEY (company_id, agreement_line_id),
  FOREIGN KEY (company_id, agreement_line_id) REFERENCES agreement_line (company_id, id) ON DELETE CASCADE,
  CONSTRAINT taken_before_not_below_zero CHECK (quantity >= 0 AND value >= 0)
);
