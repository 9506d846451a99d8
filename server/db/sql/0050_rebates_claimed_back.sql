-- A rebate that was settled and then fell, by goods that came back, is claimed back by an invoice of its own. (A10)
ALTER TABLE customer_invoice ADD COLUMN IF NOT EXISTS claims_rebate BOOLEAN NOT NULL DEFAULT FALSE;
