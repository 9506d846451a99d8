-- An item that is not sold, bought, nor put into anything any more; what has it keeps it. (W1 S1)
ALTER TABLE item
  ADD COLUMN IF NOT EXISTS out_of_use BOOLEAN NOT NULL DEFAULT FALSE;
