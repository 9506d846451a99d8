-- A rate that was given to its code: what is kept of the code by hand afterwards holds. (U2)
ALTER TABLE tax_rate ADD COLUMN IF NOT EXISTS taken BOOLEAN NOT NULL DEFAULT FALSE;
