-- A journal that opened the books: what it put on hand came from before, and not from a difference. (U3)
ALTER TABLE journal ADD COLUMN IF NOT EXISTS opening BOOLEAN NOT NULL DEFAULT FALSE;
