-- A journal that is its own document says why it was made, and which one it takes back: stock adjusted by hand. (W6, P1)
ALTER TABLE journal
  ADD COLUMN IF NOT EXISTS reason VARCHAR(200) NOT NULL DEFAULT '',
  ADD COLUMN IF NOT EXISTS reverses_id INT UNSIGNED NULL,
  ADD UNIQUE KEY IF NOT EXISTS journal_reverses (company_id, reverses_id),
  ADD CONSTRAINT journal_reversed FOREIGN KEY IF NOT EXISTS (company_id, reverses_id) REFERENCES journal (company_id, id);
