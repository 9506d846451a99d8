-- A limit on the whole of an agreement besides its lines: an amount, or a quantity in a unit they share; none where zero. (A5)
ALTER TABLE agreement
  ADD COLUMN IF NOT EXISTS whole_limit DECIMAL(18,5) NOT NULL DEFAULT 0 CHECK (whole_limit >= 0),
  ADD COLUMN IF NOT EXISTS whole_unit VARCHAR(20) NOT NULL DEFAULT '';
