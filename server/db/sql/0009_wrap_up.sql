-- How an agreement ended: the day, what was decided about what was left, and the agreement that follows it. (A11)

ALTER TABLE agreement
  ADD COLUMN IF NOT EXISTS ended_on DATE NULL,
  ADD COLUMN IF NOT EXISTS wrap_up ENUM('end','waive','renew') NULL,
  ADD COLUMN IF NOT EXISTS renewed_as INT UNSIGNED NULL,
  ADD CONSTRAINT agreement_renewed_as FOREIGN KEY IF NOT EXISTS (company_id, renewed_as) REFERENCES agreement (company_id, id),
  ADD CONSTRAINT IF NOT EXISTS agreement_ended CHECK (
    (state = 'ended') = (ended_on IS NOT NULL) AND (state = 'ended') = (wrap_up IS NOT NULL)
    AND (renewed_as IS NULL OR wrap_up = 'renew')
  );
