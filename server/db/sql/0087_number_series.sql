-- How a company numbers its documents: what stands before the serial, and which serial was the first. (U2)
ALTER TABLE number_series
  ADD COLUMN IF NOT EXISTS prefix VARCHAR(8) NOT NULL DEFAULT '',
  ADD COLUMN IF NOT EXISTS first_serial INT UNSIGNED NOT NULL DEFAULT 1;
UPDATE number_series SET prefix = CONCAT(kind, '-') WHERE prefix = '';
