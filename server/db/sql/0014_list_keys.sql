-- What lists and sums of agreements are read by, so that they cost no more in the tenth year than in the first.

ALTER TABLE agreement
  -- Nothing is left to release on any line: kept by the acts, proven by verify. (A4)
  ADD COLUMN IF NOT EXISTS used_up BOOLEAN NOT NULL DEFAULT FALSE,
  ADD KEY IF NOT EXISTS agreement_used_up (company_id, used_up, id),
  -- Serve the list in these orders.
  ADD KEY IF NOT EXISTS agreement_by_last_day (company_id, last_day),
  ADD KEY IF NOT EXISTS agreement_by_value (company_id, committed_value),
  -- Serves the largest of each currency, and which currencies there are.
  ADD KEY IF NOT EXISTS agreement_by_currency (company_id, currency, committed_value);

UPDATE agreement a
   SET a.used_up = TRUE
 WHERE a.state <> 'draft' AND NOT a.used_up AND NOT EXISTS (
   SELECT 1 FROM agreement_line l WHERE l.company_id = a.company_id AND l.agreement_id = a.id
      AND IF(a.basis = 'quantity', l.released < l.committed, l.released_value < l.committed_value));
