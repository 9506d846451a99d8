-- How an order is worked on was changed for it alone: laid anew, it keeps its own operations. (W1)
ALTER TABLE planned_order
  ADD COLUMN IF NOT EXISTS own_operations BOOLEAN NOT NULL DEFAULT FALSE;
